import { z } from 'zod';
import { limits } from '../core/limits';
import type { PersonName } from './sheet-from-server';

interface CasePerson {
  readonly id: string;
  readonly name: string;
  /** Their access has ended. */
  readonly ended: boolean;
}

/** Something that waits, as administrators see it: not what was answered. */
export interface WaitingCase {
  readonly id: string;
  readonly number: string;
  /** Of the form. */
  readonly title: string;
  readonly sender: CasePerson;
  /** What the steps of its path are called. */
  readonly steps: readonly string[];
  readonly waits: readonly {
    readonly step: number;
    readonly asked: readonly CasePerson[];
    readonly since: string;
    /** Nobody who is here can decide it. */
    readonly stuck: boolean;
    /** Why it could not go on without a step that is late; null where that was not tried, or need not be. */
    readonly trouble: string | null;
  }[];
}

export interface WaitingCases {
  readonly cases: readonly WaitingCase[];
  readonly more: boolean;
  readonly people: readonly PersonName[];
  readonly me: string;
}

const step = z.number().int().min(0).max(limits.steps);
export const findCases = z.object({ words: z.string().max(limits.label).default('') }).strict();
export const moveCase = z
  .object({ key: z.uuid(), from: step, to: step, person: z.uuid(), word: z.string().max(limits.word) })
  .strict();
