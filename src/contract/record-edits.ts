import { z } from 'zod';
import { limits } from '../core/limits';
import type { EditInput } from '../core/record/edit-input';
import type { GivenReason } from '../core/record/own-checks';
import { MOST_STAGED } from '../core/record/staged';
import type { PickedRecord } from '../core/form/picked-record';

const id = z.uuid();
const version = z.number().int().min(1).max(2_000_000_000);
const column = z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,39}$/);
const value = z.union([z.string().max(limits.longText * 2), z.boolean(), z.null()]);
const values = z.record(column, value).refine((some) => Object.keys(some).length <= limits.tableColumns);

/** What is to be done with records of one table or several. */
const edit = z.discriminatedUnion('t', [
  z.object({ t: z.literal('add'), table: id, id, parent: id.nullable().default(null), values }).strict(),
  z.object({ t: z.literal('change'), table: id, id, version, before: values, values }).strict(),
  z.object({ t: z.literal('remove'), table: id, id, version }).strict(),
  z.object({ t: z.literal('restore'), table: id, id, version }).strict(),
]) satisfies z.ZodType<EditInput>;
const reason = z
  .object({ record: id, check: z.string().max(40), reason: z.string().trim().min(1).max(limits.word) })
  .strict() satisfies z.ZodType<GivenReason>;
/** `reasons`: of what checks of the tables ask about. */
export const saveEdits = z
  .object({
    key: z.uuid(),
    edits: z.array(edit).min(1).max(MOST_STAGED),
    reasons: z.array(reason).max(MOST_STAGED).default([]),
  })
  .strict();

/** What was saved: the version each record has now, and the edits that take all of it back. */
export const savedEdits = z.object({
  versions: z.record(id, version),
  undo: z.array(edit),
});
export type SavedEdits = z.infer<typeof savedEdits>;

export const pickRecords = z.object({ q: z.string().max(limits.label).default('') }).strict();
export const nameRecords = z
  .object({ texts: z.array(z.string().max(limits.shortText)).max(MOST_STAGED) })
  .strict();

/** Records of a table that another refers to, as they are offered and picked there. */
export interface PickOptions {
  readonly options: readonly PickedRecord[];
  /** Nothing shows the words as they are written; these do but for a letter. */
  readonly near: boolean;
}
/** For each text the record it names; null where it names none, or several. */
export interface NamedRecords {
  readonly records: readonly (PickedRecord | null)[];
}
