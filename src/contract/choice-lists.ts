import { z } from 'zod';
import { limits } from '../core/limits';
import type { ChoiceList } from '../core/table/choice-list';

const version = z.number().int().min(0).max(2_000_000_000);
const choice = z
  .object({
    code: z.string().trim().min(1).max(100),
    label: z.string().trim().max(limits.label),
    retired: z.boolean().optional(),
  })
  .strict();

/** `version` is 0 for a new list. */
export const keepList = z
  .object({
    version,
    label: z.string().trim().max(1_000),
    description: z.string().max(limits.word),
    choices: z.array(choice).max(limits.choices * 2),
  })
  .strict();

/** Who takes choices from a list. Tables and forms are named where this person may see them. */
export interface ListUses {
  readonly columns: readonly {
    readonly table: string | null;
    readonly key: string | null;
    readonly column: string;
    readonly retired: boolean;
  }[];
  readonly forms: readonly { readonly id: string; readonly title: string; readonly live: boolean }[];
}

export interface ListsData {
  readonly lists: readonly (ChoiceList & { readonly uses: ListUses })[];
}

export interface ListData {
  readonly list: ChoiceList;
  readonly uses: ListUses;
  /** By code: how many records of all tables hold it, removed ones as well. */
  readonly held: Readonly<Record<string, number>>;
  /** The newest first; each as it was from then on, with the one before it. */
  readonly done: readonly {
    readonly by: string;
    readonly at: string;
    readonly list: ChoiceList;
    readonly before: ChoiceList | null;
  }[];
}
