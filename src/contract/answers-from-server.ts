import type { AbsenceData } from './absences';
import type { NoticesData } from './notices';
import type { Group } from '../core/catalogue/catalogue';
import type { CopiedFrom, PersonName } from './sheet-from-server';
import type { Facts } from '../core/kernel/issue';
import type { Freshness } from '../core/link/link';
import type { Unusual } from '../core/approval/unusual';
import type { Due } from '../core/approval/due';
import type { SubmissionState } from '../core/approval/path';
import type { Picked } from '../core/check/pick-text';
import type { Opening } from '../core/form/opening';
import type { FormDesign } from '../core/form/design';
import type { Facet } from '../core/record/facets';
import type { Filterable } from '../core/record/filter';
import type { RecordGroup, Total } from '../core/record/groups';
import type { Place } from '../core/record/places';
import type { Look, OfferedView } from '../core/record/view';
import type { ChoiceList } from '../core/table/choice-list';
import type { TypedCell } from '../core/record/staged';
import type { Table } from '../core/table/model';

/** RFC 9457 problem document, with the issues and their paths. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly code: string;
  readonly facts?: Facts;
  readonly issues?: readonly {
    readonly code: string;
    readonly path: readonly (string | number)[];
    readonly facts: Facts;
    readonly sentence: string;
  }[];
  /** Under which a fault stands in the log. */
  readonly reference?: string;
}

export interface SubmissionSummary {
  readonly id: string;
  readonly number: string | null;
  readonly state: SubmissionState;
  readonly formKey: string;
  readonly title: string;
  /** Whether it changes a record that is there. */
  readonly changes: boolean;
  readonly gist: string;
  readonly sender: string;
  readonly senderPlace: string;
  readonly at: string;
  /** When the step it waits at is to be decided. */
  readonly due: Due | null;
  /** What somebody else said last, where nothing came after it. */
  readonly said: { readonly name: string; readonly word: string } | null;
  /** Who is asked now, or what the last word was. */
  readonly step: string | null;
}

export interface KeptTable {
  readonly key: string;
  readonly label: string;
  readonly records: number;
  /** Whether that is an estimate. */
  readonly about: boolean;
  /** How many of its records others changed in the last days, and when one of them did so last. */
  readonly changed: number;
  readonly at: string;
}

export interface HomeData {
  readonly forms: readonly {
    readonly id: string;
    readonly key: string;
    readonly title: string;
    readonly area: string;
    readonly steps: number;
    /** When whoever asks began one of it the last time; null where that is long ago, or never. */
    readonly last: string | null;
  }[];
  /** What waits for whoever asks, soonest due first, and how much that is in all. */
  readonly waiting: readonly WaitingSummary[];
  readonly total: number;
  readonly mine: readonly SubmissionSummary[];
  /** Tables whoever asks may change and that others changed lately, the latest first. */
  readonly tables: readonly KeptTable[];
  readonly happened: readonly Pick<NoticesData['notices'][number], 'id' | 'submission' | 'sentence' | 'at'>[];
  /** For an administrator to whom nobody has been added yet. */
  readonly alone: boolean;
}

export interface WaitingSummary extends SubmissionSummary {
  /** The step that is to be decided, by its place. */
  readonly place: number | null;
  /** The name of somebody who is away, where it is decided for them. */
  readonly standsInFor: string | null;
  readonly version: number;
  /** Why it wants a look of its own; without any, it may be approved together with others. */
  readonly unusual: readonly Unusual[];
}

export interface ApprovalsData {
  readonly waiting: readonly WaitingSummary[];
  /** How many wait in all, of which those that have waited longest are here. */
  readonly total: number;
  readonly decided: readonly SubmissionSummary[];
  readonly me: string;
  /** Who usually stands in for whoever asks. */
  readonly deputy: string | null;
  /** When whoever asks is away, now or later. */
  readonly away: readonly AbsenceData[];
  /** Those who are away today and for whom whoever asks decides. */
  readonly standsInFor: readonly string[];
  /** Who may stand in. */
  readonly people: readonly PersonName[];
}

export interface FormsData {
  readonly forms: readonly {
    readonly id: string;
    readonly title: string;
    readonly area: string;
    readonly owner: string;
    readonly mine: boolean;
    readonly release: number | null;
    readonly edited: boolean;
    readonly updatedAt: string;
  }[];
}

export interface WorkbenchData {
  /** ISO 4217, of new questions for money; empty where their designer says. */
  readonly currency: string;
  readonly id: string;
  readonly key: string;
  readonly design: FormDesign;
  readonly version: number;
  readonly updatedAt: string;
  /** Who designs it here. */
  readonly me: string;
  readonly releases: readonly {
    readonly number: number;
    readonly at: string;
    readonly by: string;
    readonly edited: boolean;
    readonly note: string;
  }[];
  /** What has been begun, and what is on its path. */
  readonly underWay: { readonly drafts: number; readonly sent: number };
  /** As it was released last. */
  readonly released: FormDesign | null;
  readonly opening: Opening;
  readonly tables: readonly Table[];
  readonly lists: readonly ChoiceList[];
  readonly people: readonly (PersonName & { readonly manager: string | null })[];
  readonly groups: readonly Group[];
}

export interface TablesData {
  readonly tables: readonly {
    readonly id: string;
    readonly key: string;
    readonly label: string;
    readonly columns: number;
    /** Of a large table about as many. */
    readonly records: number;
    readonly about: boolean;
    readonly parent: string | null;
    readonly linked: CopiedFrom | null;
  }[];
  /** Whether who asks may make tables of sheets. */
  readonly mayImport: boolean;
}

/** A record as the grid shows it: references by title, everything else as text or yes/no. */
export interface RecordData {
  readonly id: string;
  readonly number: string;
  readonly cells: Readonly<Record<string, string | boolean | null>>;
  readonly createdAt: string;
  readonly createdBy: string | null;
  readonly updatedAt: string;
  readonly version: number;
  readonly submissionId: string | null;
  /** The records that its references name, by column id. */
  readonly named: Readonly<Record<string, string>>;
  /** Set where who asks may change some records of its table, and this is none of them. */
  readonly isFixed?: true;
}

/** What who asks may do with the records of a table. */
export interface MayEdit {
  readonly add: boolean;
  readonly change: boolean;
  readonly remove: boolean;
}

/** A table whose records belong or refer to those of another. */
export interface RelatedTable {
  readonly table: Table;
  /** The column that refers, or holds the same value, by id; null where its records are rows. */
  readonly column: string | null;
  /** How an address names the relation: `rows`, the column that refers, or a match. */
  readonly via: string;
  /** The column of the record that holds the same value; null where they refer to it. */
  readonly same: string | null;
  readonly may: MayEdit;
}

/** A table, with all that is needed to work in it. */
export interface TableAtWork {
  readonly table: Table;
  readonly may: MayEdit;
  /** Whether who asks sees some of its records, and not all. */
  readonly isLimited: boolean;
  /** What its columns are called that who asks does not see. */
  readonly restricted: readonly string[];
  readonly related: readonly RelatedTable[];
  /** The keys of the tables that references of these tables point to and who asks may see, by their ids. */
  readonly targets: Readonly<Record<string, string>>;
  /** With which edits on the device are encrypted: of the person who asks, and nobody else. Base64 of 64 bytes. */
  readonly deviceKey: string;
  /** Whether who asks may make a form of it. */
  readonly mayDesign: boolean;
  /** All that can be shown of its records, and sorted by. */
  readonly places: readonly Place[];
  /** What conditions can be picked about. */
  readonly filterables: readonly Filterable[];
  readonly look: Look;
  readonly views: readonly OfferedView[];
  /** For whom a view can be kept. */
  readonly groups: readonly { readonly id: string; readonly label: string }[];
  /** The forms by which its records can be looked at, and which of them may be used to change them. */
  readonly forms: readonly FormOfTable[];
}

export interface FormOfTable {
  readonly key: string;
  readonly title: string;
  readonly mayChange: boolean;
}

/** Some records of a table. */
export interface RecordsData {
  /** Of the table; where it is another than before, all else about the table is to be read anew. */
  readonly version: number;
  readonly rows: readonly RecordData[];
  /** Of those that are looked for, capped where there are very many; of a large table about as many. */
  readonly total: number;
  readonly about: boolean;
  /** Whether there are records beyond these, on either side. */
  readonly more: { readonly before: boolean; readonly after: boolean };
  readonly sort: string;
  /** What was asked to be shown, as places divided by commas. */
  readonly columns: string;
  readonly find: string;
  readonly where: string;
  /** The filter as it was picked; null where picking could not have made it, or there is none. */
  readonly picked: Picked | null;
  /** Of a linked table. */
  readonly freshness: Freshness | null;
}

export interface OneRecordData {
  readonly table: Table;
  readonly record: RecordData;
  /** The first of its rows, and of the records that refer to it, by table and column; with how many there are. */
  readonly related: readonly (Omit<RelatedTable, 'may'> & {
    readonly rows: readonly RecordData[];
    readonly total: number;
    readonly about: boolean;
  })[];
  readonly history: readonly {
    readonly change: string;
    readonly by: string;
    /** What the token of the program is called that did it for them. */
    readonly through: string | null;
    readonly at: string;
    readonly submission: string | null;
    /** The cells that a change left otherwise, as they were and as they became; of references with their titles. */
    readonly cells: readonly {
      readonly column: string;
      readonly before: TypedCell;
      readonly after: TypedCell;
    }[];
    /** Why it was done, where a check asked. */
    readonly reasons: readonly { readonly message: string; readonly reason: string }[];
  }[];
}

/** A record at its own address. */
export interface RecordPageData extends TableAtWork {
  readonly one: OneRecordData;
  /** The record whose row it is. */
  readonly owner: { readonly table: Table; readonly record: RecordData } | null;
  /** The numbers of the records beside it, in the order it was come by. */
  readonly beside: { readonly before: string | null; readonly after: string | null };
  /** That order, as an address says it. */
  readonly query: string;
}

export interface GroupsData {
  readonly groups: readonly RecordGroup[];
  readonly more: boolean;
  /** Of all records that are asked for, where they are not put together; by column id. */
  readonly totals: Readonly<Record<string, Total>>;
}

export interface FacetsData {
  readonly facets: readonly Facet[];
  /** Whether they are told from a few records; of a table that is counted at once there are none then. */
  readonly about: boolean;
}

/** A record that was removed and can be brought back. */
export interface RemovedRecord {
  readonly id: string;
  readonly number: string;
  readonly version: number;
  /** Empty where its number is all it is called by. */
  readonly title: string;
  readonly at: string;
  readonly by: string | null;
}

export interface BinData {
  readonly table: Pick<Table, 'id' | 'key' | 'label'>;
  /** The latest first. */
  readonly removed: readonly RemovedRecord[];
  readonly more: boolean;
  /** After which a record is removed for good. */
  readonly days: number;
}

/** What a check would say of the records there are: counted, not to be said in SQL, or not worth waiting for. */
export type CheckImpact =
  | {
      readonly t: 'counted';
      readonly records: number;
      readonly broken: number;
      readonly examples: readonly string[];
    }
  | { readonly t: 'unknown' | 'too-long' };

/** How tables refer to one another. */
export interface TablePicture {
  readonly tables: readonly {
    readonly key: string;
    readonly label: string;
    readonly records: number;
    readonly about: boolean;
    readonly columns: number;
    readonly title: readonly string[];
  }[];
  /** By keys of tables; the label is that of the column. */
  readonly references: readonly { readonly from: string; readonly to: string; readonly label: string }[];
}
