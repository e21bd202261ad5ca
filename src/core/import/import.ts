import type { IssueCode } from '../kernel/issue';
import type { FileFault } from '../wording/file-sentence';
import type { Cell } from './cell';

/**
 * The course of an import:
 * uploading -all there-> reading -detected-> proposed -accepted-> keeping -> kept (the end)
 * proposed -tried out-> trying -> proposed, with what would come of it; keeping -rows refused-> refused,
 * which is `proposed` with a reason; reading -file refused-> failed (the end); any but kept -cancelled->
 * cancelled (the end)
 */
export const importStates = [
  'uploading',
  'reading',
  'proposed',
  'trying',
  'keeping',
  'kept',
  'refused',
  'failed',
  'cancelled',
] as const;
export type ImportState = (typeof importStates)[number];

/** States in which a job is at work, or ought to be. */
export const working: ReadonlySet<ImportState> = new Set(['reading', 'trying', 'keeping']);
/** States in which decisions may be changed and the import accepted. */
export const deciding: ReadonlySet<ImportState> = new Set(['proposed', 'refused']);
export interface ImportFile {
  readonly name: string;
  readonly bytes: number;
}

export interface ImportProgress {
  readonly rows: number;
  /** What is being filled; null while files are read. */
  readonly table: string | null;
}

/** Why a file, or the whole, came to nothing. */
export interface ImportFault {
  readonly code: FileFault | 'fault';
  readonly facts: Readonly<Record<string, string | number>>;
}

/** The first rows of each sheet, to show what would come of them. */
export type Samples = Readonly<Record<string, readonly (readonly Cell[])[]>>;

export interface ImportResult {
  /** By table: how many records were made; of one that was there, what came of its rows. */
  readonly tables: readonly {
    readonly key: string;
    readonly label: string;
    readonly records: number;
    readonly merged?: Merged;
  }[];
  readonly refused: number;
  /** Sheets of which a file of refused rows can be fetched. */
  readonly refusedSheets?: readonly string[];
  /** The first of them. */
  readonly refusals: readonly RefusedCell[];
}

type MadeTable = ImportResult['tables'][number];

/** With one more; what came into one table out of several sheets is told as one. */
export function withMade(tables: readonly MadeTable[], one: MadeTable): MadeTable[] {
  const { merged } = one;
  const known = tables.find(({ key }) => key === one.key);
  if (merged === undefined || known?.merged === undefined) return [...tables, one];
  const { added, changed, same, leftOut } = known.merged;
  const all = {
    added: added + merged.added,
    changed: changed + merged.changed,
    same: same + merged.same,
    leftOut: leftOut + merged.leftOut,
  };
  return tables.map((table) =>
    table === known ? { ...known, records: known.records + one.records, merged: all } : table,
  );
}

/** Rows that came into a table there was. */
export interface Merged {
  readonly added: number;
  readonly changed: number;
  /** Records that say what their rows say already. */
  readonly same: number;
  /** Rows that were not to be added, or not to change anything. */
  readonly leftOut: number;
}

/** What would come of an import as it is decided; a change of a decision makes it void. */
export interface Trial {
  readonly result: ImportResult;
}

/** A cell that does not fit its column, for which its row is refused. */
export interface RefusedCell {
  readonly sheet: string;
  readonly row: number;
  readonly column: string;
  readonly text: string;
  readonly code: IssueCode | 'twice' | 'several-agree';
  /** What a check of the table says of it. */
  readonly message?: string;
}
