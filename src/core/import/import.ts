import type { IssueCode } from '../kernel/issue';
import type { FileFault } from '../wording/file-sentence';
import type { Cell } from './cell';

/**
 * The course of an import:
 * uploading -all there-> reading -detected-> proposed -accepted-> keeping -> kept (the end)
 * keeping -rows refused-> refused, which is `proposed` with a reason; reading -file refused-> failed (the end); any but kept -cancelled-> cancelled (the end)
 */
export const importStates = ['uploading', 'reading', 'proposed', 'keeping', 'kept', 'refused', 'failed', 'cancelled'] as const;
export type ImportState = (typeof importStates)[number];

/** States in which a job is at work, or ought to be. */
export const working: ReadonlySet<ImportState> = new Set(['reading', 'keeping']);
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
  /** By table: how many records were made of how many rows. */
  readonly tables: readonly { readonly key: string; readonly label: string; readonly records: number }[];
  readonly refused: number;
  /** The first of them. */
  readonly refusals: readonly RefusedCell[];
}

/** A cell that does not fit its column, for which its row is refused. */
export interface RefusedCell {
  readonly sheet: string;
  readonly row: number;
  readonly column: string;
  readonly text: string;
  readonly code: IssueCode | 'not-found-there' | 'twice';
}
