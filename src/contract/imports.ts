import { z } from 'zod';
import { detectedKinds, type Detection } from '../core/import/detection';
import { intoWays } from '../core/import/into-table';
import type { Decisions } from '../core/import/decisions';
import type {
  ImportFault,
  ImportFile,
  ImportProgress,
  ImportResult,
  ImportState,
  Samples,
  Trial,
} from '../core/import/import';
import { limits } from '../core/limits';
import { personalKinds, type Table } from '../core/table/model';

export const newImport = z
  .object({
    id: z.uuid(),
    files: z
      .array(
        z
          .object({
            name: z.string().trim().min(1).max(limits.label),
            bytes: z.number().int().min(0).max(limits.importBytes),
          })
          .strict(),
      )
      .min(1)
      .max(limits.importFiles),
  })
  .strict();

const name = z.string().max(1_000);
const label = z.string().trim().min(1).max(limits.label);
const named = z
  .object({
    to: z.object({ sheet: name, column: name }).strict(),
    table: z
      .object({ id: z.uuid(), column: z.string().max(40) })
      .strict()
      .nullable(),
  })
  .strict();
const columnDecision = z
  .object({
    names: named,
    required: z.boolean(),
    unique: z.boolean(),
    wordsAreEmpty: z.boolean(),
    leaveOut: z.boolean(),
    label,
    kind: z.enum(detectedKinds),
    dateOrder: z.enum(['ymd', 'dmy', 'mdy']),
    decimalSign: z.enum(['.', ',']),
    personal: z.enum(personalKinds).nullable(),
  })
  .partial()
  .strict();

const into = z
  .object({
    table: z.uuid(),
    by: z.array(z.string().max(40)).max(20),
    columns: z.record(name, z.string().max(40)),
    blanks: z.enum(['leave', 'empty']),
    what: z.enum(intoWays),
  })
  .strict();

export const decisions: z.ZodType<Decisions> = z
  .object({
    sheets: z.record(name, z.object({ leaveOut: z.boolean(), label, into }).partial().strict()),
    columns: z.record(name, columnDecision),
    headings: z.record(name, z.number().int().min(0).max(10_000)).optional(),
    declined: z.array(name).max(5_000),
    accepted: z.array(name).max(5_000).optional(),
    adds: z.array(name).max(5_000).optional(),
    refusedRows: z.enum(['keep-nothing', 'keep-the-rest']),
  })
  .strict() as unknown as z.ZodType<Decisions>;

const version = z.number().int().min(0).max(2_000_000_000);
export const decideImport = z.object({ version, decisions }).strict();
export const acceptImport = z.object({ version }).strict();
export const headingsOf = z
  .object({ version, sheet: name, row: z.number().int().min(0).max(10_000) })
  .strict();
export const refusedRowsOf = z.object({ sheet: name }).strict();
export const nothing = z.object({}).strict();

export interface ImportSummary {
  readonly id: string;
  readonly state: ImportState;
  readonly files: readonly string[];
  readonly tables: readonly string[];
  readonly updatedAt: string;
}

export interface ImportData {
  readonly id: string;
  readonly state: ImportState;
  readonly files: readonly ImportFile[];
  readonly detection: Detection | null;
  readonly samples: Samples;
  readonly decisions: Decisions;
  readonly progress: ImportProgress | null;
  readonly fault: ImportFault | null;
  readonly result: ImportResult | null;
  readonly version: number;
  readonly trial: Trial | null;
  /** Those this person may see: rows may come into them, and new ones are told apart from them. */
  readonly tables: readonly Table[];
}

const place = z.coerce.number().int().min(0).max(1_000_000).catch(-1);
/** Which piece of which file an address names; -1 where it names none, and then there is no such file. */
export const pieceOf = (
  params: Readonly<Record<string, string | undefined>>,
): { file: number; piece: number } => ({
  file: place.parse(params['file']),
  piece: place.parse(params['piece']),
});
