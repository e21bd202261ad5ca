import type { Due } from '../core/approval/due';
import type { SubmissionState } from '../core/approval/path';
import type { KnownPerson } from '../core/expression/person';
import type { Answers } from '../core/form/answers';
import type { LeftBehind } from '../core/form/carry-over';
import type { RowDefaults } from '../core/form/defaults';
import type { FormDesign } from '../core/form/design';
import type { PickedRecord } from '../core/form/picked-record';
import type { AnswerPlace } from '../core/storage/merged-answers';
import type { Table } from '../core/table/model';
import type { Workspace } from '../core/workspace';

export interface PersonName {
  readonly id: string;
  readonly name: string;
  readonly place: string;
}

/** All that a page needs to fill a form, or to look at what was filled. Times are ISO 8601 instants. */
export interface SheetData {
  /** It is rehearsed, by somebody who designs it: nothing of it is kept. */
  readonly rehearsal?: true;
  /** It is filled by somebody without an account: what they type stays on their device until they send it. */
  readonly outside?: true;
  readonly formId: string;
  readonly formKey: string;
  readonly design: FormDesign;
  readonly tables: readonly Table[];
  /** The records the answers name, by table id. */
  readonly picked: Readonly<Record<string, readonly PickedRecord[]>>;
  readonly answers: Answers;
  /** What a new row begins with, by group and column. */
  readonly rowDefaults: RowDefaults;
  /** With which copies on the device are encrypted: of the person who asks, and nobody else. Base64 of 64 bytes. */
  readonly deviceKey: string;
  /** Sources outside that this form writes to and that do not answer just now. */
  readonly silent: readonly string[];
  readonly submission: SubmissionData | null;
  /** The record it changes or shows; null where it makes a new one. */
  readonly record: RecordInSheet | null;
  /** The number of the submission that was sent just before, where this is the next one. */
  readonly after: string | null;
  /** Of a draft that was begun on an older release: the live one, and what of it would have no place there. */
  readonly newer: {
    readonly number: number;
    readonly note: string;
    readonly left: readonly LeftBehind[];
  } | null;
  readonly people: readonly PersonName[];
  readonly asking: PersonName;
  /** Whoever sends it, as expressions see them. */
  readonly sender: KnownPerson;
  readonly workspace: Workspace;
  /** ISO date-time of the workspace's zone when the page was made. */
  readonly now: string;
}

/** What a lookup offers for a search. */
export interface LookupOptions {
  readonly options: readonly PickedRecord[];
  /** The first of them were picked by whoever asks, lately. */
  readonly lately: number;
  /** Nothing shows the words as they are written; these do but for a letter. */
  readonly near: boolean;
  /** Labels of what must be answered before anything is offered. */
  readonly waitsFor: readonly string[];
  /** What the columns shown are called. */
  readonly heads: readonly string[];
  /** The table's label, to those who may add a missing record on the spot. */
  readonly addsTo: string | null;
  readonly copied: CopiedFrom | null;
}

/** A record that a sheet changes or shows. */
export interface RecordInSheet {
  readonly id: string;
  readonly number: string;
  /** Of the table it is in. */
  readonly tableKey: string;
  /** What it is now, as answers. */
  readonly now: Answers;
  /** What its change goes on from: the same, but as it was where somebody changed what this sheet changes too. */
  readonly base: Answers;
  /** Where both did. */
  readonly clashes: readonly AnswerPlace[];
  /** Of a change that was begun: as its sender left it, before it met the record as it is now. */
  readonly draft: { readonly answers: Answers; readonly base: Answers } | null;
  /** Its version, to those who look at it by the form and may remove it. */
  readonly mayRemove: number | null;
  /** Whether whoever looks may change it by the form. */
  readonly mayChange: boolean;
}

export interface AskedPerson extends PersonName {
  /** Why they are asked, where the step does not name them, in words: “in Plant health”. */
  readonly why: string | null;
  /** Until when they are away, where they are, and who stands in. */
  readonly away: { readonly until: string; readonly standIn: string } | null;
}

/** A step that is asked now. */
export interface WaitsAt {
  readonly step: number;
  readonly asked: readonly AskedPerson[];
  /** How many have approved it. */
  readonly approved: number;
  /** When it is to be decided. */
  readonly due: Due | null;
}

export interface SubmissionData {
  readonly id: string;
  readonly number: string | null;
  readonly state: SubmissionState;
  readonly version: number;
  readonly sender: PersonName;
  /** The steps it waits at, of which there are several where they are asked at the same time. */
  readonly waits: readonly WaitsAt[];
  /** The steps that follow, by their places, and whom each would ask today, by name. */
  readonly ahead: readonly { readonly step: number; readonly asked: readonly string[] }[];
  /** Steps, by id, that are not asked about what was sent. */
  readonly skipped: readonly string[];
  /** The step that whoever looks may decide; null where that is none. */
  readonly decidesAt: number | null;
  /** The earlier steps they may send it back to. */
  readonly returnTo: readonly number[];
  /** For whom whoever looks would decide, where that is not themselves. */
  readonly decidesFor: string | null;
  /** Whether whoever looks is on its path, and so may say something without deciding. */
  readonly mayRemark: boolean;
  /** To whom it may be handed over. */
  readonly handOverTo: readonly PersonName[];
  readonly updatedAt: string;
  readonly sentAt: string | null;
  readonly recordId: string | null;
  /** Whether it changes a record that is there. */
  readonly changes: boolean;
  /** What it was sent with before; of a change, what the record held. */
  readonly earlierAnswers: Answers | null;
  /** Answers that whoever looks may correct while deciding, by id of their question. */
  readonly corrects: readonly string[];
  /** It was corrected since it was sent: `earlierAnswers` are those that were sent. */
  readonly corrected: boolean;
  /** Those on its path besides whoever looks; a word may name them. */
  readonly onPath: readonly PersonName[];
  readonly events: readonly {
    readonly kind: string;
    readonly step: number | null;
    /** The earlier step it was sent back to. */
    readonly toStep: number | null;
    readonly by: string;
    /** What the token of the program is called that did it for them. */
    readonly through: string | null;
    /** Who was asked, where somebody stood in for them. */
    readonly for: string | null;
    /** To whom it was handed over. */
    readonly to: string | null;
    readonly word: string;
    /** The answer a remark is about, its ids joined by slashes; null for all of it. */
    readonly place: string | null;
    readonly at: string;
  }[];
}

/** Where the records of a linked table come from, and how old they are. */
export interface CopiedFrom {
  readonly source: string;
  readonly refreshedAt: string | null;
  readonly failing: boolean;
}
