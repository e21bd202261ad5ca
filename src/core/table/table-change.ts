import type { Issue, IssueCode } from '../kernel/issue';

/**
 * The course of a change of a table:
 * draft -carried out at once-> done (the end)
 * draft -carried out by a job-> running -> done; running -values or forms in the way-> refused, which is a draft with a reason
 * draft -dropped-> dropped (the end)
 */
export const changeStates = ['draft', 'running', 'refused', 'done', 'dropped'] as const;
export type ChangeState = (typeof changeStates)[number];

/** States in which the redesign may be edited and carried out. */
export const editable: ReadonlySet<ChangeState> = new Set(['draft', 'refused']);

export interface ChangeProgress {
  /** Rows filled so far, of how many. */
  readonly rows: number;
  readonly of: number;
}

/** What a change would meet in the rows there are, and in the forms that use the table. */
export interface Impact {
  /** Records of the table that are not removed. */
  readonly records: number;
  /** Whether it is carried out by a job, batch by batch. */
  readonly byJob: boolean;
  readonly columns: readonly ColumnImpact[];
  /** Sets that may not be shared, with what is shared now: in the order of the plan. */
  readonly shared: readonly {
    readonly columns: readonly string[];
    readonly repeated: readonly Repeated[];
    readonly rows: number;
  }[];
  /** Checks that are added or changed, in the order of the plan. */
  readonly checks: readonly CheckImpact[];
  readonly uses: readonly ColumnUse[];
  /** What keeps the change from being carried out, besides values. */
  readonly issues: readonly Issue[];
}

export interface CheckImpact {
  readonly check: string;
  /** Records that break it now; null where that is not known before its columns are there. */
  readonly broken: number | null;
  /** The numbers of some of them. */
  readonly examples: readonly string[];
  /** Whether the database will hold it by itself, whoever writes. */
  readonly isHeld: boolean;
}

export interface ColumnImpact {
  readonly column: string;
  /** Records with something in the column. */
  readonly filled: number;
  /** Records whose value does not fit, how many different values that are, and the most frequent of them. */
  readonly misfitRows: number;
  readonly misfitValues: number;
  readonly misfits: readonly Misfit[];
  /** Of a column that must be different in every record: records that share theirs, and the most frequent. */
  readonly repeatedRows: number;
  readonly repeated: readonly Repeated[];
  /** Values beyond this were not looked at; null when all were. */
  readonly lookedAt: number | null;
}

export interface Misfit {
  /** As it reads to people; empty for a blank. */
  readonly text: string;
  readonly rows: number;
  readonly code: IssueCode;
  /** The number of one of the records. */
  readonly example: string;
}

export interface Repeated {
  readonly text: string;
  readonly rows: number;
}

/** Where a form uses a column. */
export interface ColumnUse {
  readonly column: string;
  readonly form: string;
  readonly formId: string;
  readonly where: readonly UsePlace[];
  /** A release that is live or has submissions on their way; otherwise only the draft. */
  readonly live: boolean;
}

export type UsePlace = 'asked' | 'shown' | 'carried' | 'expression' | 'offered';
