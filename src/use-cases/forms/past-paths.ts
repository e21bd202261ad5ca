import type { PastPaths } from '../../contract/rehearsals';
import { askedFor } from '../../core/approval/path';
import { rulesOf, toldOf, type Told } from '../../core/approval/told';
import { stepsFor } from '../../core/approval/whom';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { carriedOver } from '../../core/form/carry-over';
import { rulesIn, type FormDesign } from '../../core/form/design';
import type { Sheet } from '../../core/form/sheet';
import type { Refusal } from '../../core/kernel/refusal';
import { ok, type Result } from '../../core/kernel/result';
import { sameJson } from '../../core/kernel/same-json';
import type { RuleTable } from '../../core/rules/rules';
import type { Tx } from '../../data/connect';
import { readRelease, type ReleaseRow } from '../../data/system/forms';
import { type SubmissionRow } from '../../data/system/submissions';
import { sentSince } from '../../data/system/submission-lists';
import { asPerson } from '../../data/transaction';
import { sheetOf } from '../submissions/sheet-of';
import type { Context } from '../workspace/asking';
import { draftRelease } from './draft-release';
import { speak } from '../../core/wording/speak';

/** Looked at: the latest, of a year at most. */
const MOST_LOOKED_AT = 100;
const YEAR_MS = 365 * 86_400_000;
/** Of those that would go another way, told one by one. */
const MOST_TOLD = 20;

/**
 * What was sent by a form lately, as far as whoever designs it may see it, held against its draft: which
 * steps would be asked, which rows of rules count, and what would go another way than it did. With the people
 * and groups of today on both sides, so that only the design makes a difference.
 */
export async function pastPaths(context: Context, id: string): Promise<Result<PastPaths, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const draft = await draftRelease(tx, catalogue, context, id);
    if (!draft.ok) return draft;
    const { release } = draft.value;
    const since = new Date(context.now.getTime() - YEAR_MS);
    const looked: Looked[] = [];
    const releases = new Map<string, ReleaseRow | null>();
    for (const row of await sentSince(tx, id, since, MOST_LOOKED_AT)) {
      const from = releases.get(row.releaseId) ?? (await readRelease(tx, catalogue, row.releaseId));
      releases.set(row.releaseId, from);
      if (from !== null) looked.push(await lookAt(tx, catalogue, context, { row, from, release }));
    }
    return ok(toldOfAll(release.design, looked));
  });
}

interface Looked {
  readonly row: SubmissionRow;
  readonly sheet: Sheet;
  readonly was: Way;
  readonly now: Way;
}

/** The steps that are asked, in order, and whom. */
type Way = readonly { readonly step: string; readonly label: string; readonly people: readonly string[] }[];

async function lookAt(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  { row, from, release }: { row: SubmissionRow; from: ReleaseRow; release: ReleaseRow },
): Promise<Looked> {
  const sent = row.sentAnswers ?? row.answers;
  const { answers } = carriedOver(from.design, release.design, sent, () => '', new Set());
  const sheet = await sheetOf(
    tx,
    catalogue,
    { ...context, now: row.sentAt ?? context.now },
    { id: row.id, release, answers, senderId: row.senderId, use: 'new', asSeen: true },
  );
  const way = (design: FormDesign, told: Told): Way =>
    stepsFor(design, row.senderId, catalogue, told)
      .filter(({ id }) => !told.skipped.includes(id))
      .map((step) => ({
        step: step.id,
        label: step.label,
        people: [...askedFor(step, row.senderId)].sort().map((one) => catalogue.people.get(one)?.name ?? ''),
      }));
  return { row, sheet, was: way(from.design, row), now: way(release.design, toldOf(sheet, catalogue)) };
}

function toldOfAll(design: FormDesign, looked: readonly Looked[]): PastPaths {
  const others = looked.filter(({ was, now }) => !sameJson(unnamed(was), unnamed(now)));
  return {
    looked: looked.length,
    steps: design.steps.map(({ id }) => ({
      id,
      count: looked.filter(({ now }) => now.some(({ step }) => step === id)).length,
    })),
    rules: rulesIn(design).map((table) => countedBy(table, looked)),
    others: others.length,
    other: others.slice(0, MOST_TOLD).map(({ row, was, now }) => ({
      id: row.id,
      number: row.number ?? '',
      was: wayWords(was),
      now: wayWords(now),
    })),
  };
}

/** A step that is only called something else goes no other way. */
const unnamed = (way: Way) => way.map(({ step, people }) => ({ step, people }));

const wayWords = (way: Way): string =>
  way.map(({ label, people }) => `${label} (${people.join(', ') || speak`nobody`})`).join(speak`, then `) ||
  speak`nobody`;

function countedBy(table: RuleTable, looked: readonly Looked[]): PastPaths['rules'][number] {
  const told = looked.map(({ sheet }) => rulesOf(table, sheet));
  return {
    id: table.id,
    rows: table.rows.map(({ id }) => ({
      id,
      count: told.filter((one) => one.t === 'decided' && one.rows.some((row) => row.id === id)).length,
    })),
    nothing: told.filter(({ t }) => t === 'nothing').length,
    several: told.filter(({ t }) => t === 'several').length,
  };
}
