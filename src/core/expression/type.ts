/** The static types of the expression language. Every value may also be empty (FEEL's null). */
export type Type =
  | { readonly t: 'number' | 'text' | 'yes-no' | 'date' | 'null' }
  | { readonly t: 'record'; readonly table: string; readonly fields: ReadonlyMap<string, Field> }
  | { readonly t: 'list'; readonly of: Type }
  | { readonly t: 'rows'; readonly group: string; readonly columns: ReadonlyMap<string, Field> };

/** A name that may be used after a dot: its stable id, and what it holds. */
export interface Field {
  readonly id: string;
  readonly type: Type;
}

/** The names an expression may use, by the key a person writes. */
export type Scope = ReadonlyMap<string, Field>;

export const NUMBER: Type = { t: 'number' };
export const TEXT: Type = { t: 'text' };
export const YES_NO: Type = { t: 'yes-no' };
export const DATE: Type = { t: 'date' };
export const EMPTY: Type = { t: 'null' };
export const listOf = (of: Type): Type => ({ t: 'list', of });

/** Whether a value of type `given` may stand where `wanted` is asked for; an empty literal may stand anywhere. */
export function fits(given: Type, wanted: Type): boolean {
  if (given.t === 'null') return true;
  if (given.t === 'list' && wanted.t === 'list') return fits(given.of, wanted.of);
  if (given.t === 'record' && wanted.t === 'record') return given.table === wanted.table;
  return given.t === wanted.t;
}
