import type { PersonalData } from '../table/model';
import type { DetectedKind, Named } from './detection';
import type { DateOrder } from './formats/date';
import type { DecimalSign } from './formats/number';
import type { Into } from './into-table';

/** What the owner decided about what was detected. Whatever is not said is as it was proposed. Columns go by `Sheet/Column`. */
export interface Decisions {
  readonly sheets: Readonly<Record<string, SheetDecision>>;
  readonly columns: Readonly<Record<string, ColumnDecision>>;
  /** By sheet: the row in which its headings stand, 0 for none. It was read anew with them. */
  readonly headings?: Readonly<Record<string, number>> | undefined;
  /** Ids of proposals that are not to be carried out. */
  readonly declined: readonly string[];
  /** Ids of those that are carried out only when somebody says so. */
  readonly accepted?: readonly string[] | undefined;
  /** Ids of relations of which the values that were not found become records of the table they name. */
  readonly adds?: readonly string[] | undefined;
  /** Refused rows: none of the import is kept, or the good rows are. */
  readonly refusedRows: 'keep-nothing' | 'keep-the-rest';
}

export interface SheetDecision {
  readonly leaveOut?: boolean;
  readonly label?: string;
  /** Its rows come into a table there is. */
  readonly into?: Into;
}

export interface ColumnDecision {
  readonly leaveOut?: boolean;
  readonly label?: string;
  readonly kind?: DetectedKind;
  /** The answer to what was asked. */
  readonly dateOrder?: DateOrder;
  readonly decimalSign?: DecimalSign;
  readonly personal?: PersonalData | null;
  /** Whether it must be filled, and be different in every record, where the values would bear it and it shall not be so. */
  readonly required?: boolean;
  readonly unique?: boolean;
  /** Whether words such as `n/a` are taken for nothing. */
  readonly wordsAreEmpty?: boolean;
  /** What its values name, where that is not what was found. */
  readonly names?: Named;
}

/**
 * What was decided, with the headings of one sheet in another row: what was said of its columns goes by
 * headings that are none any more.
 */
export function withHeadings(decisions: Decisions, sheet: string, row: number): Decisions {
  const { into: _into, ...kept } = decisions.sheets[sheet] ?? {};
  const columns = Object.fromEntries(
    Object.entries(decisions.columns).filter(([path]) => !path.startsWith(columnPath(sheet, ''))),
  );
  return {
    ...decisions,
    sheets: { ...decisions.sheets, [sheet]: kept },
    columns,
    headings: { ...decisions.headings, [sheet]: row },
  };
}

/** A column holds something of this kind, and names no records, whatever was found. */
export function asKind(
  decisions: Decisions,
  path: string,
  kind: DetectedKind,
  relation: string | null,
): Decisions {
  const { names: _names, ...kept } = decisions.columns[path] ?? {};
  return {
    ...decisions,
    columns: { ...decisions.columns, [path]: { ...kept, kind } },
    declined:
      relation === null || decisions.declined.includes(relation)
        ? decisions.declined
        : [...decisions.declined, relation],
  };
}

/** Its values name records. */
export function asNames(decisions: Decisions, path: string, names: Named, relation: string): Decisions {
  return {
    ...decisions,
    columns: { ...decisions.columns, [path]: { ...decisions.columns[path], names } },
    declined: decisions.declined.filter((id) => id !== relation),
    adds: decisions.adds?.filter((id) => id !== relation),
  };
}

export const noDecisions: Decisions = { sheets: {}, columns: {}, declined: [], refusedRows: 'keep-nothing' };
export const columnPath = (sheet: string, column: string): string => `${sheet}/${column}`;
