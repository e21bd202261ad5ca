import { issue, type Issue } from '../kernel/issue';
import { keptColumns, type Column, type Match, type Table } from './model';

/**
 * Tables whose records belong together because they hold the same value: what can be matched, and what a
 * table is matched with, from both sides.
 */

/** Columns of one class may be matched; null for those that say too little to tell records by, or are worked out. */
export function matchClass({
  kind,
  target,
  formula,
}: Pick<Column, 'kind' | 'target' | 'formula'>): string | null {
  if (formula !== '') return null;
  switch (kind) {
    case 'text':
    case 'e-mail':
    case 'phone':
    case 'web-address':
      return 'text';
    case 'decimal':
    case 'money':
      return 'number';
    case 'whole':
    case 'date':
      return kind;
    case 'reference':
      return `reference ${target}`;
    default:
      return null;
  }
}

/** The columns of `table` that can hold the same as one of another table. */
export const matchable = (table: Table, other: Column): Column[] => {
  const wanted = matchClass(other);
  return wanted === null ? [] : keptColumns(table).filter((column) => matchClass(column) === wanted);
};

/** A table that is matched with another, seen from that other. */
export interface Matched {
  /** How an address names it. */
  readonly via: string;
  /** The column of the table it is seen from. */
  readonly from: Column;
  readonly table: Table;
  readonly to: Column;
}

/** What `seen` from a table is matched with it: what its own design says, and what those of the others say of it. */
export function matchedWith(table: Table, seen: ReadonlyMap<string, Table>): Matched[] {
  const own = table.matches.flatMap((match) => resolved(match, table, seen.get(match.table), match.id));
  const others = [...seen.values()].flatMap((other) =>
    other.matches
      .filter(({ table: of, from, to }) => of === table.id && (other.id !== table.id || from !== to))
      .flatMap(({ id, from, to }) => resolved({ from: to, to: from }, table, other, `${id}-back`)),
  );
  return [...own, ...others];
}

/** A column that is gone, or became of another class, matches nothing. */
function resolved(
  { from, to }: Pick<Match, 'from' | 'to'>,
  table: Table,
  other: Table | undefined,
  via: string,
): Matched[] {
  const one = table.columns.find(({ id }) => id === from);
  const column =
    one === undefined || other === undefined ? undefined : matchable(other, one).find(({ id }) => id === to);
  return one === undefined || other === undefined || column === undefined
    ? []
    : [{ via, from: one, table: other, to: column }];
}

/** What records of `listed` are matched with `via`: by which of its columns, and with which of whose; null where there is no such match. */
export function matchVia(
  listed: Table,
  via: string,
  seen: ReadonlyMap<string, Table>,
): { readonly column: Column; readonly of: Table; readonly holding: Column } | null {
  for (const of of seen.values()) {
    const found = matchedWith(of, seen).find((one) => one.via === via && one.table.id === listed.id);
    if (found !== undefined) return { column: found.to, of, holding: found.from };
  }
  return null;
}

/** What is said for the first time must be about columns that there are. Paths: `['matches', id]`. */
export function matchIssues(
  wanted: Table,
  before: Table | null,
  others: ReadonlyMap<string, Table>,
): Issue[] {
  const known = new Set(before?.matches.map((match) => JSON.stringify(match)));
  const seen = new Map(others).set(wanted.id, wanted);
  return wanted.matches
    .filter((match) => !known.has(JSON.stringify(match)))
    .filter((match) => resolved(match, wanted, seen.get(match.table), match.id).length === 0)
    .map(({ id }) => issue('match-unfinished', ['matches', id]));
}
