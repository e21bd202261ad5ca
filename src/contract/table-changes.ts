import { z } from 'zod';
import type { Issue } from '../core/kernel/issue';
import type { ChoiceList } from '../core/table/choice-list';
import type { LikelyMatch } from '../core/table/likely-matches';
import type { Table } from '../core/table/model';
import type { Redesign } from '../core/table/redesign';
import type { ChangeProgress, ChangeState } from '../core/table/table-change';
import { redesign } from './stored/table-design';

const version = z.number().int().min(0).max(2_000_000_000);
/** `version` is the draft's, 0 for a new one; `base` the version of the table it is drawn on, 0 for a table that is not there yet. */
export const saveChange = z.object({ version, base: version, redesign }).strict();
export const runChange = z.object({ version }).strict();

export interface TableDraft {
  readonly id: string;
  readonly version: number;
  readonly state: ChangeState;
  readonly base: Table | null;
  readonly redesign: Redesign;
  readonly progress: ChangeProgress | null;
  readonly issues: readonly Issue[];
}

/** Tables that may be matched with one, the surest first, and those too large to be looked through. */
export interface LikelyMatches {
  readonly matches: readonly LikelyMatch[];
  readonly left: readonly string[];
}

/** All that designing a table needs. */
export interface TableDesignData {
  /** As it is; null while it is not there yet. */
  readonly table: Table | null;
  readonly records: number;
  readonly draft: TableDraft | null;
  /** Those this person may see: to refer to, and to be told apart from. */
  readonly tables: readonly Table[];
  readonly lists: readonly ChoiceList[];
  /** Whether this person may change it, or only look at how it is made. */
  readonly mayDesign: boolean;
  /** Forms that write to it, and those that ask to. */
  readonly forms: readonly {
    readonly id: string;
    readonly title: string;
    readonly owner: string;
    readonly state: 'asked' | 'allowed';
  }[];
  readonly done: readonly {
    readonly by: string;
    readonly at: string;
    readonly base: Table | null;
    readonly table: Table;
  }[];
}
