import { z } from 'zod';
import type { TokenGrant } from '../core/catalogue/narrowed';
import { limits } from '../core/limits';

const tableGrant = z
  .object({ tableId: z.uuid(), formId: z.null(), action: z.enum(['see', 'add', 'change', 'remove']) })
  .strict();
const formGrant = z
  .object({ tableId: z.null(), formId: z.uuid(), action: z.enum(['fill', 'see-all']) })
  .strict();

export const makeToken = z
  .object({
    label: z.string().trim().min(1).max(limits.label),
    person: z.uuid(),
    /** ISO date of the workspace: the last day it works. */
    until: z.iso.date(),
    grants: z.array(z.union([tableGrant, formGrant])).max(2_000),
  })
  .strict();
export type TokenInput = z.infer<typeof makeToken>;

/** The secret is shown this once: only its hash is kept. */
export interface MadeToken {
  readonly secret: string;
}

export interface TokenData {
  readonly id: string;
  readonly label: string;
  /** Whom it acts for, and its last letters. */
  readonly person: string;
  readonly hint: string;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly expiresAt: string;
  readonly lastUsedAt: string | null;
  readonly state: 'works' | 'over' | 'ended';
  readonly grants: readonly TokenGrant[];
}

export interface TokensData {
  readonly tokens: readonly TokenData[];
  readonly me: string;
  /** ISO date of the workspace. */
  readonly today: string;
  readonly people: readonly { readonly id: string; readonly name: string; readonly place: string }[];
  readonly tables: readonly Named[];
  readonly forms: readonly Named[];
}

export const reachAsked = z.object({ person: z.uuid() }).strict();

/** What somebody may, as `action id` of a table or form: a token for them may no more. */
export interface ReachData {
  readonly may: readonly string[];
}

interface Named {
  readonly id: string;
  readonly key: string;
  readonly label: string;
}
