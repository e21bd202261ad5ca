/** The static types of the expression language. Every value may also be empty (FEEL's null). */
export type Type =
  | { readonly t: ScalarName | 'null' }
  | { readonly t: 'record'; readonly table: string; readonly fields: ReadonlyMap<string, Field> }
  | ContextType
  | { readonly t: 'list'; readonly of: Type }
  | { readonly t: 'range'; readonly of: Type }
  | { readonly t: 'rows'; readonly group: string; readonly columns: ReadonlyMap<string, Field> };

/** Months and days are two types: FEEL does not say how many days a month has. */
export type ScalarName = 'number' | 'text' | 'yes-no' | 'date' | 'time' | 'date-time' | 'days' | 'months';

/** Named values; a row of a repeating group is one, and then `group` says of which. */
export interface ContextType {
  readonly t: 'context';
  readonly fields: ReadonlyMap<string, Field>;
  readonly group?: string;
}

/** A name that may be used after a dot: its stable id, and what it holds. */
export interface Field {
  readonly id: string;
  readonly type: Type;
}

/** The names an expression may use, by the key a person writes. */
export type Scope = ReadonlyMap<string, Field>;

/** Whether both offer the same names with the same meaning, in the same order. */
export function sameNames(a: Scope, b: Scope): boolean {
  if (a === b) return true;
  const others = [...b];
  return (
    a.size === b.size &&
    [...a].every(([key, { id, type }], i) => {
      const [otherKey, other] = others[i] ?? [];
      return key === otherKey && id === other?.id && sameType(type, other.type);
    })
  );
}

function sameType(a: Type, b: Type): boolean {
  if (a.t === 'record' && b.t === 'record') return a.table === b.table && sameNames(a.fields, b.fields);
  if (a.t === 'context' && b.t === 'context') return a.group === b.group && sameNames(a.fields, b.fields);
  if (a.t === 'rows' && b.t === 'rows') return a.group === b.group && sameNames(a.columns, b.columns);
  if ((a.t === 'list' && b.t === 'list') || (a.t === 'range' && b.t === 'range')) return sameType(a.of, b.of);
  return a.t === b.t;
}

export const NUMBER: Type = { t: 'number' };
export const TEXT: Type = { t: 'text' };
export const YES_NO: Type = { t: 'yes-no' };
export const DATE: Type = { t: 'date' };
export const TIME: Type = { t: 'time' };
export const DATE_TIME: Type = { t: 'date-time' };
/** A duration of days, hours, minutes and seconds. */
export const DAYS: Type = { t: 'days' };
/** A duration of years and months. */
export const MONTHS: Type = { t: 'months' };
export const EMPTY: Type = { t: 'null' };
export const listOf = (of: Type): Type => ({ t: 'list', of });
export const rangeOf = (of: Type): Type => ({ t: 'range', of });

/** The members of what can be gone through: a list, or repeating rows; null for anything else. */
export function elementOf(type: Type): Type | null {
  if (type.t === 'list') return type.of;
  return type.t === 'rows' ? { t: 'context', fields: type.columns, group: type.group } : null;
}

/** What may stand after a dot, for a record or a context. */
export function fieldsOfType(type: Type): ReadonlyMap<string, Field> | null {
  return type.t === 'record' || type.t === 'context' ? type.fields : null;
}

/** Whether a value of type `given` may stand where `wanted` is asked for; an empty literal may stand anywhere. */
export function fits(given: Type, wanted: Type): boolean {
  if (given.t === 'null') return true;
  const [mine, theirs] = [elementOf(given), elementOf(wanted)];
  if (mine !== null && theirs !== null) return fits(mine, theirs);
  if (given.t === 'range' && wanted.t === 'range') return fits(given.of, wanted.of);
  if (given.t === 'record' && wanted.t === 'record') return given.table === wanted.table;
  if (given.t === 'context' && wanted.t === 'context')
    return [...wanted.fields].every(([key, field]) => fits(given.fields.get(key)?.type ?? EMPTY, field.type));
  return given.t === wanted.t;
}

/** The type of something that is one of these, or null when they do not go together. */
export function together(types: readonly Type[]): Type | null {
  const known = types.filter((type) => type.t !== 'null');
  const first = known.find((type) => !(type.t === 'list' && type.of.t === 'null')) ?? known[0] ?? EMPTY;
  return types.every((type) => fits(type, first)) ? first : null;
}

/** The table of the people of the workspace, which follows who is here; made by migration 0033, and written by nobody. */
export const PEOPLE = '01900000-0000-7000-8000-000000000001';

/** The name a type goes by in issues; `wording/` makes words of it. */
export function typeName(type: Type): string {
  if (type.t === 'record' && type.table === PEOPLE) return 'person';
  const element = type.t === 'rows' ? null : elementOf(type);
  return element === null ? type.t : element.t === 'null' ? 'list' : `list of ${typeName(element)}`;
}
