import type { FileFault } from '../core/wording/file-sentence';

/** Thrown while a file is streamed, for a stream has no other way to end early; whoever reads the file turns it into a refusal. */
export class RefusedFile extends Error {
  constructor(
    readonly fault: FileFault,
    readonly facts: Readonly<Record<string, string | number>> = {},
  ) {
    super(fault);
  }
}

/** What protects the machine from a file made to harm it, and no honest file comes near. */
export const fileLimits = {
  /** PostgreSQL's tables have at most 1 600. */
  columns: 1_000,
  /** Characters of one cell; also how much of a line is held while its end is looked for. */
  cell: 1_000_000,
  /** Bytes a workbook may unpack to, and how much larger that may be than the file. */
  unpacked: 600_000_000,
  ratio: 200,
  /** Files within a workbook. */
  parts: 2_000,
} as const;
