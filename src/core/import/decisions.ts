import type { PersonalData } from '../table/model';
import type { DetectedKind } from './detection';
import type { DateOrder } from './formats/date';
import type { DecimalSign } from './formats/number';
import type { Into } from './into-table';

/** What the owner decided about what was detected. Whatever is not said is as it was proposed. Columns go by `Sheet/Column`. */
export interface Decisions {
  readonly sheets: Readonly<Record<string, SheetDecision>>;
  readonly columns: Readonly<Record<string, ColumnDecision>>;
  /** Ids of proposals that are not to be carried out. */
  readonly declined: readonly string[];
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
}

export const noDecisions: Decisions = { sheets: {}, columns: {}, declined: [], refusedRows: 'keep-nothing' };
export const columnPath = (sheet: string, column: string): string => `${sheet}/${column}`;
