import Big from 'big.js';
import { issue, under, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { compile } from './compile';
import { readDuration } from './duration';
import type { World } from './functions/builtin';
import { toJson, typeOfJson, type Json } from './json';
import { personValue, PERSON } from './person';
import { plainDate, plainDateTime, plainTime } from './moment';
import { read } from './read';
import type { Expression } from './tree';
import {
  DATE_TIME,
  DAYS,
  MONTHS,
  TEXT,
  YES_NO,
  elementOf,
  fieldsOfType,
  listOf,
  typeName,
  type Field,
  type Type,
} from './type';
import { writtenType } from './type-text';
import type { Value } from './value';

/** An expression to try, with the values of its names and, where JSON does not show them, their types. */
export interface Trial {
  readonly expression: string;
  readonly types?: { readonly [name: string]: Json };
  readonly context?: { readonly [name: string]: Json };
}

export interface Tried {
  readonly tree: Expression;
  readonly fields: ReadonlyMap<string, Field>;
  readonly value: () => Result<Json, Issue[]>;
}

/** Reads the expression with the names of the trial. Issues' paths are `['types', name]`, `['context', name]` or the text's own. */
export function tryOut(
  { expression, types = {}, context = {} }: Trial,
  world: World,
): Result<Tried, Issue[]> {
  const issues: Issue[] = [];
  const fields = new Map<string, Field>();
  for (const name of new Set([...Object.keys(types), ...Object.keys(context)])) {
    const type = name in types ? typeFrom(types[name] ?? null) : typeOfJson(context[name] ?? null);
    if (type === null)
      issues.push(issue('malformed', ['types', name], { detail: JSON.stringify(types[name] ?? null) }));
    else fields.set(name, { id: name, type });
  }
  const values = new Map(
    [...fields].map(([name, { type }]) => [name, valueFrom(context[name] ?? null, type)]),
  );
  for (const [name, value] of values)
    if (value === undefined)
      issues.push(
        issue('wrong-type', ['context', name], {
          given: JSON.stringify(context[name]),
          wanted: typeName(fields.get(name)?.type ?? TEXT),
        }),
      );
  if (issues.length > 0) return fail(issues);
  const tree = read(expression, fields);
  if (!tree.ok) return fail(under([], tree.error));
  return ok({ tree: tree.value, fields, value: () => worked(tree.value, values, world) });
}

function worked(
  tree: Expression,
  values: ReadonlyMap<string, Value | undefined>,
  world: World,
): Result<Json, Issue[]> {
  let gaveUp = false;
  const value = compile(tree)({
    ...world,
    read: (id) => values.get(id) ?? null,
    column: () => [],
    gaveUp: () => void (gaveUp = true),
  });
  return gaveUp
    ? fail([issue('too-many-steps', [], tree.span as Issue['facts'] & Expression['span'])])
    : ok(toJson(value));
}

const ourNames: Readonly<Record<string, Type>> = {
  text: TEXT,
  'yes-no': YES_NO,
  'yes/no': YES_NO,
  'date-time': DATE_TIME,
  days: DAYS,
  months: MONTHS,
  person: PERSON,
};

/** A type as the standard writes it, by our own name, `[type]` for a list, or an object for a group of values. */
function typeFrom(json: Json): Type | null {
  if (typeof json === 'string') return ourNames[json] ?? writtenType(json);
  if (Array.isArray(json)) {
    const of = typeFrom((json as readonly Json[])[0] ?? null);
    return of && listOf(of);
  }
  if (json === null || typeof json !== 'object') return null;
  const fields = Object.entries(json).map(([key, one]) => [key, typeFrom(one as Json)] as const);
  return fields.every(([, type]) => type !== null)
    ? {
        t: 'context',
        fields: new Map(fields.map(([key, type]): [string, Field] => [key, { id: key, type: type as Type }])),
      }
    : null;
}

const read1: Readonly<Partial<Record<Type['t'], (text: string) => Value>>> = {
  text: (text) => text,
  date: plainDate,
  time: plainTime,
  'date-time': plainDateTime,
  days: readDuration,
  months: readDuration,
  number: (text) => (/^-?\d+(\.\d+)?$/.test(text) ? new Big(text) : null),
};

/** JSON as a value of the type; undefined when it is not one. */
function valueFrom(json: Json, type: Type): Value | undefined {
  if (json === null) return null;
  const element = elementOf(type);
  if (element !== null)
    return Array.isArray(json)
      ? all((json as readonly Json[]).map((one) => valueFrom(one, element)))
      : undefined;
  const fields = fieldsOfType(type);
  if (type.t === 'record')
    return typeof json === 'object' ? personFrom(json as { readonly [key: string]: Json }) : undefined;
  if (fields !== null)
    return typeof json === 'object'
      ? contextFrom(json as { readonly [key: string]: Json }, fields)
      : undefined;
  if (type.t === 'yes-no') return typeof json === 'boolean' ? json : undefined;
  if (type.t === 'number' && typeof json === 'number') return new Big(json);
  return typeof json === 'string' ? (read1[type.t]?.(json) ?? undefined) : undefined;
}

/** The only records that can be given without a database. Without an id, people are told apart by name. */
function personFrom(json: { readonly [key: string]: Json }): Value | undefined {
  const { name = null, id = name, place = '', email = '' } = json;
  if (
    typeof id !== 'string' ||
    typeof name !== 'string' ||
    typeof place !== 'string' ||
    typeof email !== 'string'
  )
    return undefined;
  return personValue({ id, name, place, email });
}

const all = (values: readonly (Value | undefined)[]): Value | undefined =>
  values.every((one) => one !== undefined) ? (values as readonly Value[]) : undefined;

function contextFrom(
  json: { readonly [key: string]: Json },
  fields: ReadonlyMap<string, Field>,
): Value | undefined {
  const entries = [...fields].map(([key, field]) => [key, valueFrom(json[key] ?? null, field.type)] as const);
  return entries.every(([, value]) => value !== undefined)
    ? new Map(entries as [string, Value][])
    : undefined;
}
