import { isObject, longestList, type Json } from '../link/list-rows';
import { directoryColumn, directoryRows, type DirectoryCell, type DirectoryList } from './directory-rows';

/**
 * Reads a list of people from what a JSON address answered: the longest list of entries in it, each field a
 * heading (`givenName`, `given_name` and `name.givenName` are all “given name”). Of several values the one
 * that is marked as `primary` goes first, as in RFC 7643. Null where there is no list.
 */
export function directoryEntries(answer: unknown): DirectoryList | null {
  const found = longestList(answer);
  if (found === undefined) return null;
  const entries = byAddress(found.list.map((entry) => new Map(fieldsOf(entry, []))));
  const headings = [...new Set(entries.flatMap((entry) => [...entry.keys()]))];
  return directoryRows([headings, ...entries.map((entry) => headings.map((one) => entry.get(one)))]);
}

type Entry = ReadonlyMap<string, DirectoryCell>;

/** A manager who is named by the id of another entry is named by the address of that. */
function byAddress(entries: readonly Entry[]): readonly Entry[] {
  const cellsAs = (column: string, entry: Entry): [string, DirectoryCell][] =>
    [...entry].filter(([heading]) => directoryColumn(heading) === column);
  const addresses = new Map(
    entries.map((entry) => [one(entry.get('id')), one(cellsAs('email', entry)[0]?.[1])] as const),
  );
  addresses.delete('');
  return entries.map(
    (entry) =>
      new Map([
        ...entry,
        ...cellsAs('manager', entry).map(([heading, cell]): [string, DirectoryCell] => [
          heading,
          addresses.get(one(cell)) ?? cell,
        ]),
      ]),
  );
}

const one = (cell: DirectoryCell): string => (typeof cell === 'string' ? cell : (cell?.[0] ?? ''));

/** How deep the fields of an entry are followed. */
const DEPTH = 2;

function fieldsOf(entry: Json, above: readonly string[]): [string, DirectoryCell][] {
  return Object.entries(entry).flatMap(([key, value]): [string, DirectoryCell][] => {
    const path = [...above, key];
    if (isObject(value) && path.length < DEPTH) return fieldsOf(value, path);
    return [[headingOf(path), cellOf(value)]];
  });
}

/** The names of a field as words; what lies within another goes by its own name alone where only that means something. */
function headingOf(path: readonly string[]): string {
  const [whole, own] = [path.map(words).join(' '), words(path.at(-1) ?? '')];
  const [outer = ''] = path;
  // The name of a manager is nobody's own name; what an extension of RFC 7643 tells is.
  const isOfThem = path.length === 1 || words(outer) === 'name' || outer.startsWith('urn:');
  return directoryColumn(whole) === null && isOfThem ? own : whole;
}

const words = (key: string): string =>
  key
    .replaceAll(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replaceAll(/[_\s]+/g, ' ')
    .toLowerCase();

/** Where an entry of several stands by an object, the field that names it. */
const NAMED = ['email', 'display', 'label', 'name', 'title', 'value'];

function cellOf(value: unknown): DirectoryCell {
  if (Array.isArray(value)) {
    const all: readonly unknown[] = value;
    return [...all]
      .sort((a, b) => Number(isPrimary(b)) - Number(isPrimary(a)))
      .map(nameOf)
      .filter((one) => one !== '');
  }
  return nameOf(value);
}

const isPrimary = (value: unknown): boolean => isObject(value) && value['primary'] === true;

function nameOf(value: unknown): string {
  if (typeof value === 'string') return value.replaceAll('\u0000', '').toWellFormed();
  if (typeof value === 'number' || typeof value === 'boolean') return String(value);
  if (!isObject(value)) return '';
  const key = NAMED.find((one) => typeof value[one] === 'string');
  return key === undefined ? '' : nameOf(value[key]);
}
