import type { Colleague } from '../access/rules';
import type { Group } from '../catalogue/catalogue';
import type { SourceFault } from '../link/source';
import { directoryPlan, withoutWrong, type DirectoryIssue, type DirectoryPlan } from './directory-plan';
import type { DirectoryRow } from './directory-rows';

/** What following a list of people would do, or did. */
export interface Following {
  /** Without the lines that are wrong, which `issues` tells of. */
  readonly plan: DirectoryPlan;
  /** The lines that are carried out. */
  readonly rows: readonly DirectoryRow[];
  /** Who came by this list before and is not in it any more. */
  readonly leaving: readonly { readonly id: string; readonly name: string }[];
  /** So many leave at once that a person looks first. */
  readonly isMuch: boolean;
}

/** What a list knows of somebody who came by it. */
export interface Member {
  /** By which it knows them, whatever their address; empty where it does not say. */
  readonly entry: string;
  /** Whether it ended their access. */
  readonly ended: boolean;
}

/** Who is known from the list, and who names it: nobody ends their own access. */
export interface FollowedBy {
  /** By person. */
  readonly members: ReadonlyMap<string, Member>;
  readonly namedBy: string;
}

/** Up to so many leave without a word, and above it up to this share of those who came by the list. */
const [FEW, SHARE] = [3, 0.1];

/**
 * Holds a list that comes again and again against those who are here. A line that is wrong holds up nobody
 * else: whoever it is about stays as they are. Where a line does not say whom it is about, nobody leaves. Nor does
 * whoever has another address there now; that is changed by hand, for it lets in whoever has it. Whoever was let
 * out by hand is let in again by hand alone.
 */
export function following(
  rows: readonly DirectoryRow[],
  people: readonly Colleague[],
  groups: readonly Group[],
  { members, namedBy }: FollowedBy,
): Following {
  const renamed = otherAddresses(rows, people, members);
  const { plan, issues, kept } = fitting(rows, people, groups, [
    ...renamed,
    ...hereNoMore(rows, people, members),
  ]);
  const told = new Set([...rows.map(({ email }) => key(email)), ...renamed.map(({ value }) => key(value))]);
  const emails = new Map(people.map(({ id, email }) => [id, key(email)] as const));
  const leaving = issues.some(({ why }) => why === 'no-email')
    ? []
    : plan.missing.filter(({ id }) => members.has(id) && id !== namedBy && !told.has(emails.get(id) ?? ''));
  return {
    plan: { ...plan, issues },
    rows: kept,
    leaving,
    isMuch: leaving.length > Math.max(FEW, stillHere(members) * SHARE),
  };
}

/** The plan of what is right in a list. What is left out may be what another line needs, so it is held again until all fits. */
function fitting(
  rows: readonly DirectoryRow[],
  people: readonly Colleague[],
  groups: readonly Group[],
  besides: readonly DirectoryIssue[],
): { plan: DirectoryPlan; issues: readonly DirectoryIssue[]; kept: readonly DirectoryRow[] } {
  const issues = [...directoryPlan(rows, people, groups).issues, ...besides].sort((a, b) => a.line - b.line);
  let kept = withoutWrong(rows, issues);
  let plan = directoryPlan(kept, people, groups);
  while (plan.issues.length > 0) {
    kept = withoutWrong(kept, plan.issues);
    plan = directoryPlan(kept, people, groups);
  }
  return { plan, issues, kept };
}

/** Lines about somebody who came by another address, which is given with them. */
function otherAddresses(
  rows: readonly DirectoryRow[],
  people: readonly Colleague[],
  members: FollowedBy['members'],
): DirectoryIssue[] {
  const emails = new Map(
    people.flatMap(({ id, email, ended }) => {
      const entry = members.get(id)?.entry ?? '';
      return entry === '' || ended ? [] : [[entry, key(email)] as const];
    }),
  );
  return rows.flatMap(({ entry = '', email }, i) => {
    const was = emails.get(entry) ?? key(email);
    return was === key(email) ? [] : [{ line: i + 1, why: 'other-address' as const, value: was }];
  });
}

/** Lines about somebody whose access was ended, and not by this list. */
function hereNoMore(
  rows: readonly DirectoryRow[],
  people: readonly Colleague[],
  members: FollowedBy['members'],
): DirectoryIssue[] {
  const out = new Map(
    people
      .filter(({ id, ended }) => ended && members.get(id)?.ended !== true)
      .map(({ email, name }) => [key(email), name] as const),
  );
  return rows.flatMap(({ email }, i) => {
    const value = out.get(key(email));
    return value === undefined ? [] : [{ line: i + 1, why: 'has-left' as const, value }];
  });
}

/** How many came by the list and have not left by it. */
export const stillHere = (members: FollowedBy['members']): number =>
  [...members.values()].filter(({ ended }) => !ended).length;

const key = (email: string): string => email.trim().toLowerCase();

/** Why a list could not be followed, besides what can be wrong with any address. */
export type DirectoryFault =
  | SourceFault
  | { readonly code: 'no-people' | 'too-many' | 'not-administrator'; readonly facts: SourceFault['facts'] };

/** What came of following it the last time. */
export type DirectoryOutcome =
  | {
      readonly t: 'followed';
      readonly added: number;
      readonly changed: number;
      readonly left: number;
      /** The first of them, and how many there are. */
      readonly issues: readonly DirectoryIssue[];
      readonly wrong: number;
    }
  /** Nothing was changed: somebody looks first. */
  | { readonly t: 'held'; readonly leaving: number; readonly of: number }
  | { readonly t: 'failed'; readonly fault: DirectoryFault };

/** Minutes from one time to the next. */
export const followChoices = [15, 60, 1440] as const;
export type FollowEvery = (typeof followChoices)[number];
