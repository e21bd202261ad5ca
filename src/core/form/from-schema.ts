import { newShortId } from '../kernel/ids';
import type { JsonSchema } from '../kernel/json-schema';
import { limits } from '../limits';

import type { FormDesign, Question, RowsQuestion, TableTarget } from './design';
import { isField } from './design';
import { asKind, type AskedKind } from './edit';
import { keyFor } from './key';

/** What a schema says that a form cannot ask, by the path of its property. */
export interface NotAsked {
  readonly path: string;
  readonly why: 'nested' | 'no-type';
}

export interface FromSchema {
  readonly questions: readonly Question[];
  readonly title: string;
  readonly notAsked: readonly NotAsked[];
}

type TableFor = (key: string, label: string) => TableTarget;

/**
 * The questions that ask for what a JSON Schema (2020-12) of an object describes: its properties, one
 * question each, arrays of objects as repeating rows. What has no place in a form is said, and never dropped
 * in silence.
 */
export function questionsOfSchema(schema: JsonSchema, tableFor: TableFor): FromSchema {
  const notAsked: NotAsked[] = [];
  const questions = propertiesOf(schema).flatMap(({ key, property, required }) =>
    questionsFor(key, property, required, { tableFor, notAsked, within: [] }),
  );
  return { questions: distinctKeys(questions), title: text(schema['title']), notAsked };
}

/** The questions in a design of their own. */
export const withQuestions = (design: FormDesign, { questions, title }: FromSchema): FormDesign => ({
  ...design,
  ...(title !== '' && { title: title.slice(0, 200) }),
  sections: design.sections.map((section, i) => (i === 0 ? { ...section, questions } : section)),
});

interface Property {
  readonly key: string;
  readonly property: JsonSchema;
  readonly required: boolean;
}

function propertiesOf(schema: JsonSchema): Property[] {
  const required = Array.isArray(schema['required']) ? schema['required'] : [];
  return Object.entries(isSchema(schema['properties']) ? schema['properties'] : {}).flatMap(
    ([key, property]) => (isSchema(property) ? [{ key, property, required: required.includes(key) }] : []),
  );
}

interface At {
  readonly tableFor: TableFor;
  readonly notAsked: NotAsked[];
  /** The rows it stands in: their keys, and the id of the innermost. */
  readonly within: readonly string[];
  readonly rows?: string;
}

/** Rows come with those that stand in them. */
function questionsFor(key: string, property: JsonSchema, required: boolean, at: At): Question[] {
  const { tableFor, notAsked, within } = at;
  const label = text(property['title']) || key.replaceAll(/[_-]+/g, ' ');
  const id = newShortId();
  const base = {
    id,
    key: keyFor(key, new Set()),
    label: label.slice(0, 200),
    hint: text(property['description']).slice(0, 1_000),
    required,
  };
  const items = isSchema(property['items']) ? property['items'] : null;
  const path = [...within, key].join('.');
  if (typeOf(property) === 'array' && items !== null && typeOf(items) === 'object') {
    if (within.length > 1) return (notAsked.push({ path, why: 'nested' }), []);
    return rowsOf(base, property, items, { ...at, within: [...within, key] });
  }
  const kind = kindOf(property, items);
  if (kind === null)
    return (notAsked.push({ path, why: typeOf(property) === 'object' ? 'nested' : 'no-type' }), []);
  const asked = asKind(base, kind, tableFor(base.key, label));
  const choices = choicesOf(kind === 'choices' && items !== null ? items : property);
  // A confirmation is asked for by its kind; whether it must be given is what the schema says.
  return ['choices' in asked ? { ...asked, choices } : { ...asked, required }];
}

function rowsOf(
  base: Parameters<typeof asKind>[0],
  property: JsonSchema,
  items: JsonSchema,
  at: At,
): Question[] {
  const inside = propertiesOf(items).flatMap(({ key, property: inner, required }) =>
    questionsFor(key, inner, required, { ...at, rows: base.id }),
  );
  const asked = asKind(base, 'rows', at.tableFor(base.key, base.label));
  if (asked.kind !== 'rows') return [asked];
  const rows: RowsQuestion = {
    ...asked,
    columns: distinctKeys(inside.filter(isField)),
    least: count(property['minItems']) ?? (base.required ? 1 : 0),
    most: Math.min(count(property['maxItems']) ?? asked.most, limits.rows),
    ...(at.rows !== undefined && { within: at.rows }),
  };
  return [rows, ...inside.filter((one) => one.kind === 'rows')];
}

/** Null where nothing that a form asks is like it. */
function kindOf(property: JsonSchema, items: JsonSchema | null): AskedKind | null {
  if (property['const'] === true) return 'confirmation';
  if (choicesOf(property).length > 0) return 'choice';
  switch (typeOf(property)) {
    case 'integer':
      return 'whole';
    case 'number':
      return property['multipleOf'] === 1 ? 'whole' : 'decimal';
    case 'boolean':
      return 'yes-no';
    case 'array':
      return items !== null && choicesOf(items).length > 0
        ? 'choices'
        : text(items?.['format']) === 'uuid'
          ? 'files'
          : null;
    case 'string':
      return formats[text(property['format'])] ?? 'text';
    default:
      return null;
  }
}

const formats: Readonly<Record<string, AskedKind>> = {
  date: 'date',
  time: 'time',
  'date-time': 'date-time',
  email: 'e-mail',
  uri: 'web-address',
  uuid: 'lookup',
};

/** Of `type: ["string", "null"]` the first that is not null. */
function typeOf({ type }: JsonSchema): string {
  const types = (Array.isArray(type) ? type : [type]).filter((one) => one !== 'null');
  return text(types[0]);
}

function choicesOf(schema: JsonSchema): { code: string; label: string }[] {
  const listed = Array.isArray(schema['enum']) ? schema['enum'] : [];
  const named = [schema['oneOf'], schema['anyOf']].flatMap((one) => (Array.isArray(one) ? one : []));
  const found = [
    ...listed.map((one) => ({ code: one as unknown, label: one as unknown })),
    ...named.flatMap((one) =>
      isSchema(one) && 'const' in one ? [{ code: one['const'], label: one['title'] ?? one['const'] }] : [],
    ),
  ];
  return found.flatMap(({ code, label }) =>
    typeof code === 'string' || typeof code === 'number'
      ? [{ code: String(code).slice(0, 100), label: String(label).slice(0, 200) }]
      : [],
  );
}

function distinctKeys<Q extends { readonly key: string }>(questions: readonly Q[]): Q[] {
  const taken = new Set<string>();
  return questions.map((one) => {
    const key = keyFor(one.key, taken);
    taken.add(key);
    return { ...one, key };
  });
}

const isSchema = (value: unknown): value is JsonSchema =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const count = (value: unknown): number | null =>
  typeof value === 'number' && Number.isInteger(value) && value >= 0 ? value : null;
