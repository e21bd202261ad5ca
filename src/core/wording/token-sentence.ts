import type { TokenGrant } from '../catalogue/narrowed';
import { counted } from './numbers';
import { speak, spoken } from './speak';

/** What things are called, by their ids. */
export type Names = ReadonlyMap<string, string>;

const verbs = spoken((): readonly { readonly action: TokenGrant['action']; readonly words: string }[] => [
  { action: 'see', words: speak`sees` },
  { action: 'add', words: speak`adds to` },
  { action: 'change', words: speak`changes` },
  { action: 'remove', words: speak`removes from` },
  { action: 'fill', words: speak`fills` },
  { action: 'see-all', words: speak`follows every submission of` },
]);

/** Names of one kind that are told before the rest is counted. */
const TOLD = 4;

/** What a token may, as one says it: “Sees Beds and Taxa; adds to Beds; fills Shift log”. */
export function tokenSentence(grants: readonly TokenGrant[], names: Names): string {
  const parts = verbs().flatMap(({ action, words }) => {
    const of = grants
      .filter((grant) => grant.action === action)
      .map(({ tableId, formId }) => names.get(tableId ?? formId ?? '') ?? '');
    const known = of.filter((name) => name !== '').sort((a, b) => a.localeCompare(b));
    return known.length === 0 ? [] : [`${words} ${joined(known)}`];
  });
  const said = parts.join('; ');
  return said === ''
    ? speak`May nothing any more: what it named is gone`
    : said.charAt(0).toUpperCase() + said.slice(1);
}

/** “Beds, Taxa, Products, Suppliers and 3 more”. */
export function joined(names: readonly string[]): string {
  const told = names.slice(0, TOLD);
  const rest = names.length - told.length;
  const all = rest > 0 ? [...told, speak`${rest} more`] : told;
  const last = all.at(-1) ?? '';
  return all.length < 2 ? last : speak`${all.slice(0, -1).join(', ')} and ${last}`;
}

const MANY_TABLES = 5;
const LONG_DAYS = 366;

/** What makes a token a danger in the wrong hands, as sentences; none where it is as narrow as it should be. */
export function wideWords(grants: readonly TokenGrant[], lastsDays: number): string[] {
  const tablesOf = (action: TokenGrant['action']): number =>
    grants.filter((one) => one.action === action).length;
  const [sees, removes] = [tablesOf('see'), tablesOf('remove')];
  const writes = new Set(
    grants.filter(({ action }) => action === 'change' || action === 'remove').map(({ tableId }) => tableId),
  ).size;
  return [
    ...(sees > MANY_TABLES ? [speak`It reads ${counted(sees, 'table')}.`] : []),
    ...(writes > MANY_TABLES ? [speak`It changes what stands in ${counted(writes, 'table')}.`] : []),
    ...(removes > 0
      ? [speak`It removes records of ${removes === 1 ? 'a table' : counted(removes, 'table')}.`]
      : []),
    ...(lastsDays > LONG_DAYS ? [speak`It works for more than a year.`] : []),
  ];
}
