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
}

type Column = 'email' | 'name' | 'first' | 'last' | 'place' | 'manager' | 'groups';

/** What columns are called, case and accents aside. */
const HEADINGS: Readonly<Record<Column, readonly string[]>> = {
  email: ['e-mail', 'email', 'mail', 'e-mail address', 'email address'],
  name: ['name', 'full name', 'display name'],
  first: ['first name', 'given name', 'forename'],
  last: ['last name', 'family name', 'surname'],
  place: ['place', 'team', 'department', 'place or team', 'unit'],
  manager: ['manager', 'manager e-mail', 'manager email', 'reports to'],
  groups: ['groups', 'group', 'member of'],
};

export interface DirectoryList {
  readonly rows: readonly DirectoryRow[];
  /** Headings that mean nothing here. */
  readonly unread: readonly string[];
  /** What it cannot do without. */
  readonly missing: readonly ('email' | 'name')[];
}

/** Reads a list from its cells, the first line its headings. Groups are parted by semicolons. Empty lines are none. */
export function directoryRows(cells: readonly (readonly string[])[]): DirectoryList {
  const [headings = [], ...lines] = cells;
  const columns = headings.map((heading) => columnOf(heading));
  const at = (column: Column): number => columns.indexOf(column);
  const hasName = at('name') >= 0 || at('last') >= 0;
  return {
    unread: headings.filter((heading, i) => columns[i] === null && heading.trim() !== ''),
    missing: [...(at('email') < 0 ? (['email'] as const) : []), ...(hasName ? [] : (['name'] as const))],
    rows: lines
      .filter((line) => line.some((cell) => cell.trim() !== ''))
      .map((line) => {
        const cell = (column: Column): string | undefined =>
          at(column) < 0 ? undefined : (line[at(column)] ?? '').trim();
        const groups = cell('groups');
        return {
          email: cell('email') ?? '',
          name: cell('name') ?? [cell('first'), cell('last')].filter(Boolean).join(' '),
          ...(at('place') >= 0 && { place: cell('place') }),
          ...(at('manager') >= 0 && { manager: cell('manager') }),
          ...(groups !== undefined && {
            groups: groups
              .split(';')
              .map((one) => one.trim())
              .filter((one) => one !== ''),
          }),
        };
      }),
  };
}

function columnOf(heading: string): Column | null {
  const said = folded(heading.trim());
  const found = (Object.keys(HEADINGS) as Column[]).find((column) => HEADINGS[column].includes(said));
  return found ?? null;
}
