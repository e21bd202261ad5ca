import type { Problem } from '../../contract/answers-from-server';
import { asksForReason, brokenAlone, type GivenReason } from '../../core/record/own-checks';
import type { Staged } from '../../core/record/staged';
import type { Table } from '../../core/table/model';
import { speak } from '../../core/wording/speak';

/** What is wrong with a staged record, at one of its cells or as a whole. */
export interface StagedTrouble {
  readonly id: string;
  readonly column: string | null;
  readonly sentence: string;
  readonly code: string;
}

/** What a check asks about: somebody says why, and then it is no trouble any more. */
export interface Asked {
  readonly record: string;
  readonly check: string;
  readonly column: string | null;
  readonly message: string;
  /** Empty until it is given. */
  readonly reason: string;
}

/** What the server said of a record while this was typed in it. */
export interface Refused extends StagedTrouble {
  readonly check: string;
  readonly message: string;
  readonly typed: string;
}

/** What checks ask about: as far as it is told here, and as far as the server has told it. */
export function askedOf(
  tables: ReadonlyMap<string, Table>,
  staged: Staged,
  told: readonly Refused[],
  reasons: readonly GivenReason[],
): Asked[] {
  const here = staged.flatMap((one) => {
    const table = tables.get(one.table);
    return (table === undefined ? [] : brokenAlone(table, one))
      .filter(asksForReason)
      .map(({ id, on, message }) => ({ record: one.id, check: id, column: on, message }));
  });
  const there = told
    .filter(({ code }) => code === 'reason-needed')
    .map(({ id, check, column, message }) => ({ record: id, check, column, message }));
  const all = [...here, ...there.filter((one) => !here.some((known) => isSameAsked(known, one)))];
  return all.map((one) => ({
    ...one,
    reason: reasons.find((given) => isSameAsked(given, one))?.reason ?? '',
  }));
}

/** What a record was before is reason enough. */
export const takenBack = ({ path, facts }: NonNullable<Problem['issues']>[number]): GivenReason => ({
  record: String(path[0]),
  check: String(facts['check'] ?? ''),
  reason: speak`Taken back to what it was before`,
});

export const isSameAsked = (
  a: Pick<GivenReason, 'record' | 'check'>,
  b: Pick<GivenReason, 'record' | 'check'>,
): boolean => a.record === b.record && a.check === b.check;
