import { oncePer } from '../kernel/once-per';
import { resolvedNames, resolvedNamesOfTests, type ResolvedName } from './read';
import type { Field, Scope, Type } from './type';

/**
 * Expressions are stored with ids where a person reads keys, so that a renamed key breaks nothing:
 * `rate * area` is kept as `q1a… * q2b…`. Text that cannot be read keeps whatever names are known in it.
 */
export const toStored = (shown: string, scope: Scope): string => renamed(shown, resolvedNames(shown, scope));

/** The inverse: ids printed as the keys they have today. An id that is gone stays as it is, and is reported when read. */
export const toShown = (stored: string, scope: Scope): string =>
  renamed(stored, resolvedNames(stored, shownScope(scope)));

/** Unary tests, and what they are asked of, kept as expressions are. */
export const testsToStored = (shown: string, scope: Scope, of: string): string =>
  renamed(shown, resolvedNamesOfTests(shown, scope, of));
export const testsToShown = (stored: string, scope: Scope, of: string): string =>
  renamed(stored, resolvedNamesOfTests(stored, shownScope(scope), of));

/** The scope in which stored text is read as it stands: names are ids and mean themselves, so that no key can capture another. */
export const storedScope = oncePer((scope: Scope): Scope => rekeyed(scope, (_, { id }) => [id, id]));

/** The scope that turns stored text into what a person reads: names are ids, and mean keys. */
const shownScope = oncePer((scope: Scope): Scope => rekeyed(scope, (key, { id }) => [id, key]));

function renamed(text: string, names: readonly ResolvedName[]): string {
  let out = '';
  let at = 0;
  for (const { from, to, id } of names) {
    out += text.slice(at, from) + id;
    at = to;
  }
  return out + text.slice(at);
}

/** The same names under other keys and ids, also within records and rows. */
function rekeyed(
  scope: ReadonlyMap<string, Field>,
  name: (key: string, field: Field) => [key: string, id: string],
): Map<string, Field> {
  return new Map(
    [...scope].map(([key, field]) => {
      const [newKey, id] = name(key, field);
      return [newKey, { id, type: rekeyedType(field.type, name) }];
    }),
  );
}

function rekeyedType(type: Type, name: Parameters<typeof rekeyed>[1]): Type {
  switch (type.t) {
    case 'record':
    case 'context':
      return { ...type, fields: rekeyed(type.fields, name) };
    case 'rows':
      return { ...type, columns: rekeyed(type.columns, name) };
    case 'list':
    case 'range':
      return { ...type, of: rekeyedType(type.of, name) };
    default:
      return type;
  }
}
