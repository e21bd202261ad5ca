import { z } from 'zod';
import { limits } from '../core/limits';

/** A name, an e-mail address or a number, as much of it as is known. */
export const findPerson = z.object({ words: z.string().trim().min(2).max(limits.label) }).strict();

const chosen = {
  records: z.array(z.object({ table: z.uuid(), id: z.uuid() }).strict()).max(limits.ofOnePerson),
  submissions: z.array(z.uuid()).max(limits.ofOnePerson),
};
export const takeOutPerson = z.object(chosen).strict();
export const erasePerson = z
  .object({
    key: z.uuid(),
    ...chosen,
    /** By table: what is emptied, where that is not what is marked as data about people. */
    columns: z.record(z.uuid(), z.array(z.string().max(60)).max(limits.tableColumns)),
  })
  .strict();
export type Chosen = z.infer<typeof takeOutPerson>;
export type Erasing = z.infer<typeof erasePerson>;

interface Told {
  readonly label: string;
  readonly text: string;
}

export interface FoundRecord {
  readonly id: string;
  readonly number: string;
  readonly title: string;
  /** ISO day. */
  readonly made: string;
  readonly removed: boolean;
  /** What is marked as data about people, where there is any. */
  readonly values: readonly Told[];
  /** The ISO day from which it may be erased; null where that is now. */
  readonly keptUntil: string | null;
}

export interface FoundTable {
  readonly id: string;
  readonly label: string;
  /** All that can be emptied. */
  readonly columns: readonly { readonly id: string; readonly label: string; readonly isPersonal: boolean }[];
  /** Which law or rule asks that its records are kept. */
  readonly why: string | null;
  readonly records: readonly FoundRecord[];
  /** Whether there are more. */
  readonly more: boolean;
}

export interface FoundSubmission {
  readonly id: string;
  readonly form: string;
  readonly number: string | null;
  readonly sender: string;
  /** ISO date-time; null for a draft. */
  readonly sentAt: string | null;
}

export interface FoundPerson {
  readonly tables: readonly FoundTable[];
  /** What was sent, or begun, and has become no record. */
  readonly submissions: readonly FoundSubmission[];
  readonly moreSubmissions: boolean;
}

/** A file of JSON, as one text. */
export interface TakenOut {
  readonly name: string;
  readonly text: string;
}

export interface ErasedData {
  readonly records: number;
  readonly submissions: number;
  readonly kept: readonly {
    readonly number: string;
    readonly table: string;
    readonly until: string;
    readonly why: string;
  }[];
}
