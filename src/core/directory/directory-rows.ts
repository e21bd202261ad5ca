import { folded } from '../kernel/folded';

/** What a list tells of somebody. What its headings do not name is left out, and stays as it is. */
export interface DirectoryRow {
  readonly email: string;
  readonly name: string;
  readonly place?: string | undefined;
  /** E-mail address; empty for nobody. */
  readonly manager?: string | undefined;
  /** Labels. */
  readonly groups?: readonly string[] | undefined;
  /** What the list itself knows them by, whatever their address becomes. */
  readonly entry?: string | undefined;
}

type Column = 'email' | 'name' | 'first' | 'last' | 'place' | 'manager' | 'groups' | 'active' | 'entry';

/** What columns are called in English and German, in OpenID Connect's claims and in RFC 7643, case and accents aside. */
const HEADINGS: Readonly<Record<Column, readonly string[]>> = {
  email: [
    'e-mail',
    'email',
    'mail',
    'emails',
    'e-mail address',
    'email address',
    'e-mail-adresse',
    'mailadresse',
  ],
  name: ['name', 'full name', 'display name', 'vollstandiger name'],
  first: ['first name', 'given name', 'forename', 'vorname'],
  last: ['last name', 'family name', 'surname', 'nachname', 'familienname'],
  place: ['place', 'team', 'department', 'place or team', 'unit', 'abteilung', 'ort', 'bereich'],
  manager: [
    'manager',
    'manager e-mail',
    'manager email',
    'manager mail',
    'manager id',
    'reports to',
    'vorgesetzte',
    'vorgesetzter',
    'leitung',
  ],
  groups: ['groups', 'group', 'member of', 'gruppen', 'gruppe'],
  entry: ['id', 'external id', 'staff number', 'employee number', 'personalnummer'],
  active: ['active', 'enabled', 'here', 'aktiv'],
};
/** What stands in `active` for somebody who has left. */
const NOT = new Set(['no', 'false', '0', 'n', 'nein', 'inactive', 'left']);

export interface DirectoryList {
  readonly rows: readonly DirectoryRow[];
  /** Headings that mean nothing here. */
  readonly unread: readonly string[];
  /** What it cannot do without. */
  readonly missing: readonly ('email' | 'name')[];
}

/** A text, or several of them where a list has that, or nothing where a line does not tell; in a text groups are parted by semicolons. */
export type DirectoryCell = string | readonly string[] | undefined;

/** Reads a list from its cells, the first line its headings. Empty lines are none, and whoever is not active is not in it. */
export function directoryRows(cells: readonly (readonly DirectoryCell[])[]): DirectoryList {
  const [first = [], ...lines] = cells;
  const headings = first.map((heading) => text(heading));
  const columns = headings.map((heading) => directoryColumn(heading));
  const at = (column: Column): number => columns.indexOf(column);
  const hasName = at('name') >= 0 || at('last') >= 0;
  return {
    unread: headings.filter((heading, i) => columns[i] === null && heading.trim() !== ''),
    missing: [...(at('email') < 0 ? (['email'] as const) : []), ...(hasName ? [] : (['name'] as const))],
    rows: lines
      .filter((line) => line.some((cell) => several(cell).length > 0))
      .filter((line) => !NOT.has(folded(text(line[at('active')]))))
      .map((line) => rowOf(line, at)),
  };
}

function rowOf(line: readonly DirectoryCell[], at: (column: Column) => number): DirectoryRow {
  const said = (column: Column): string => text(line[at(column)]);
  return {
    email: said('email'),
    name: at('name') >= 0 ? said('name') : [said('first'), said('last')].filter(Boolean).join(' '),
    ...(line[at('place')] !== undefined && { place: said('place') }),
    ...(line[at('manager')] !== undefined && { manager: said('manager') }),
    ...(line[at('groups')] !== undefined && { groups: several(line[at('groups')]) }),
    ...(said('entry') !== '' && { entry: said('entry') }),
  };
}

const text = (cell: DirectoryCell): string => (typeof cell === 'string' ? cell : (cell?.[0] ?? '')).trim();

const several = (cell: DirectoryCell = ''): string[] =>
  (typeof cell === 'string' ? cell.split(';') : cell).map((one) => one.trim()).filter((one) => one !== '');

/** What a heading means; null for nothing that is known here. */
export function directoryColumn(heading: string): Column | null {
  const said = folded(heading.trim());
  const found = (Object.keys(HEADINGS) as Column[]).find((column) => HEADINGS[column].includes(said));
  return found ?? null;
}
