import { z } from 'zod';
import type { LinkState } from '../core/outside/link';
import { languages, type Language } from '../core/formats/formats';
import { limits } from '../core/limits';
import { answers } from './stored/answers';
import type { SheetData } from './sheet-from-server';
import type { SubmissionState } from '../core/approval/path';

const version = z.number().int().min(0).max(2_000_000_000);
const questionId = z.string().regex(/^[\w-]{1,60}$/);

export const sayOutside = z
  .object({
    version,
    welcome: z.string().max(limits.greeting),
    thanks: z.string().max(limits.greeting),
    lookups: z.array(questionId).max(limits.questions * 2),
    origins: z.array(z.string().max(300)).max(limits.sites),
    mailTo: questionId.nullable(),
    /** In which language the form meets people outside; null for that of the workspace. */
    language: z.enum(languages).nullable(),
  })
  .strict();
export const newLink = z
  .object({
    id: z.uuid(),
    label: z.string().trim().min(1).max(limits.label),
    /** The last day it leads anywhere, in the workspace. */
    until: z.iso.date().nullable(),
    most: z.number().int().min(1).max(1_000_000).nullable(),
  })
  .strict();

/** Sent from outside, all at once; `proof` is what the browser found (`core/outside/proof.ts`). */
export const sendFromOutside = z
  .object({
    id: z.uuid(),
    key: z.uuid(),
    answers,
    proof: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER),
  })
  .strict();
/** For a request that says all in its headers. */
export const nothing = z.object({}).strict();
/** What was sent back, answered. */
export const sendAgain = z.object({ key: z.uuid(), version, answers }).strict();

export interface LinkData {
  readonly id: string;
  readonly label: string;
  /** Scheme, host and path. */
  readonly address: string;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly endsAt: string | null;
  readonly most: number | null;
  readonly sent: number;
  readonly state: LinkState;
}

/** What a lookup would show to people outside. */
export interface ShownOutside {
  readonly id: string;
  readonly label: string;
  readonly table: string;
  readonly columns: readonly string[];
  /** What the form works with besides, which a browser is given though nothing shows it. */
  readonly read: readonly string[];
}

export interface OutsideData {
  /** 0 where nothing was said yet. */
  readonly version: number;
  readonly welcome: string;
  readonly thanks: string;
  readonly lookups: readonly string[];
  readonly origins: readonly string[];
  /** The question whose answer is the address of whoever sends, by id; null where nobody is mailed. */
  readonly mailTo: string | null;
  readonly language: Language | null;
  /** The questions that ask for an e-mail address. */
  readonly addresses: readonly { readonly id: string; readonly label: string }[];
  /** Of the live release, whether there is one, and its lookups. */
  readonly isLive: boolean;
  readonly shows: readonly ShownOutside[];
  readonly links: readonly LinkData[];
}

/** A form as people outside meet it. */
export interface MetOutside {
  readonly sheet: SheetData;
  readonly link: string;
  readonly welcome: string;
  readonly thanks: string;
}

/** What somebody sent from outside, as they follow it. */
export interface Followed extends MetOutside {
  readonly id: string;
  readonly number: string;
  readonly version: number;
  readonly state: SubmissionState;
  readonly sentAt: string | null;
  /** What was said to them last, where it was sent back or declined. */
  readonly word: string;
}

export interface SentFromOutside {
  readonly number: string;
  readonly state: SubmissionState;
  /** By which it is followed: an id and a secret, which nothing else tells. */
  readonly follow: string;
}
