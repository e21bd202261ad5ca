import { z } from 'zod';
import type { DirectoryPlan } from '../core/directory/directory-plan';
import {
  followChoices,
  type DirectoryFault,
  type DirectoryOutcome,
  type FollowEvery,
} from '../core/directory/following';

const version = z.number().int().min(0).max(2_000_000_000);

export const lookAtList = z.object({ source: z.uuid() }).strict();
/** `seen`: what was looked over; `version`: 0 where none is followed so far. */
export const listToFollow = z
  .object({
    source: z.uuid(),
    every: z.union(followChoices.map((minutes) => z.literal(minutes))),
    endsAccess: z.boolean(),
    version,
    seen: z.string().max(100),
  })
  .strict();
export type ListToFollow = z.infer<typeof listToFollow>;
export const stopList = z.object({ version }).strict();

/** What following a list would change, and by what it is known that nothing else has changed since. */
export type FollowedLook =
  | { readonly t: 'failed'; readonly fault: DirectoryFault }
  | {
      readonly t: 'looked';
      readonly people: number;
      /** Fields that mean nothing here. */
      readonly unread: readonly string[];
      readonly plan: DirectoryPlan;
      /** Who came by it before and is not in it any more. */
      readonly leaving: readonly { readonly id: string; readonly name: string }[];
      readonly seen: string;
    };

export interface FollowedList {
  /** Lists outside that could be followed. */
  readonly sources: readonly { readonly id: string; readonly label: string; readonly url: string }[];
  readonly followed: {
    readonly source: string;
    readonly every: FollowEvery;
    readonly endsAccess: boolean;
    readonly namedBy: string;
    readonly version: number;
    readonly triedAt: string;
    readonly followedAt: string;
    readonly outcome: DirectoryOutcome;
    /** How many are known from it. */
    readonly members: number;
  } | null;
}
