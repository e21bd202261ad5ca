import { Temporal } from 'temporal-polyfill';
import { issue, type Issue } from '../kernel/issue';
import { isCalculated, keptColumns, type Column, type Duty, type Table } from '../table/model';

/** The columns, also retired ones, that were marked as data about people and stand in the table itself. */
export const personalColumns = ({ columns, retired }: Pick<Table, 'columns' | 'retired'>): Column[] =>
  [...columns, ...retired].filter((column) => column.personal !== null && !isCalculated(column));

/** The day from which a record may be erased, as ISO text, while that is still to come. `made` and `today` are days of the workspace. */
export function keptUntil(duty: Duty | null, made: string, today: string): string | null {
  if (duty === null) return null;
  const until = Temporal.PlainDate.from(made).add({ years: duty.years }).toString();
  return today < until ? until : null;
}

/** What can be erased, by the choice of whoever erases: all that is typed in. What is worked out goes with what it is worked out of. */
export const erasable = (table: Pick<Table, 'columns' | 'retired'>): Column[] =>
  [...keptColumns(table), ...table.retired.filter((column) => !isCalculated(column))].filter(
    ({ kind }) => kind !== 'reference',
  );

const ERASED = 'erased';

/** What stands in a column afterwards: nothing, or where it must be filled a word that says so. */
export function erasedValue(
  column: Pick<Column, 'kind' | 'required'>,
  number: string,
): string | null | 'cannot' {
  if (!column.required) return null;
  switch (column.kind) {
    // With the number of its record, for some must be different in every record.
    case 'text':
    case 'phone':
      return `${ERASED} ${number}`;
    case 'e-mail':
      return `${ERASED}-${number.toLowerCase()}@erased.invalid`;
    case 'web-address':
      return `https://erased.invalid/${number.toLowerCase()}`;
    default:
      return 'cannot';
  }
}

/** The columns of these that must be filled with what no word can stand for. */
export const erasingIssues = (table: Table, columns: readonly Column[]): Issue[] =>
  columns
    .filter((column) => erasedValue(column, '') === 'cannot')
    .map(({ id, label }) => issue('cannot-be-emptied', ['columns', id], { label, table: table.label }));

/** Shorter ones are met everywhere, and tell nobody apart. */
const SHORTEST = 3;

/** What was erased, so that answers and history are rid of it as well: by the ids of its columns, and as it was written. */
export class Erased {
  private readonly columns: ReadonlySet<string>;
  private readonly values: ReadonlySet<string>;

  constructor(columns: Iterable<string>, values: Iterable<string | null>) {
    this.columns = new Set(columns);
    this.values = new Set(
      [...values].flatMap((value) => (value !== null && value.length >= SHORTEST ? [value] : [])),
    );
  }

  /**
   * Answers, or anything else that is kept as JSON, with nothing where it stood. A question is asked, and a
   * cell is kept, by the id of the column it fills.
   */
  in<T>(kept: T): T {
    return this.within(kept) as T;
  }

  private within(kept: unknown): unknown {
    if (typeof kept === 'string') return this.values.has(kept) ? null : kept;
    if (Array.isArray(kept)) return kept.map((one) => this.within(one));
    if (typeof kept !== 'object' || kept === null) return kept;
    return Object.fromEntries(
      Object.entries(kept).map(([key, value]) => [key, this.columns.has(key) ? null : this.within(value)]),
    );
  }
}
