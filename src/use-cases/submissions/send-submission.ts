import { mayForm, type Catalogue } from '../../core/catalogue/catalogue';
import { advance, draftState, type SubmissionState } from '../../core/approval/path';
import { stepsFor } from '../../core/approval/whom';
import { toldOf } from '../../core/approval/told';
import { sheetIssues } from '../../core/check/sheet-issues';
import { stoodBefore } from '../../core/check/stood-before';
import { issue } from '../../core/kernel/issue';
import { fail, ok, type Result } from '../../core/kernel/result';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { nextNumber } from '../../data/runtime/records/next-number';
import { readRelease } from '../../data/system/forms';
import { moveSubmission, readSubmission, updateDraft } from '../../data/system/submissions';
import type { Tx } from '../../data/connect';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { shutForSending } from '../forms/opening';
import { carryOut } from './carry-out';
import { changesAnything, rehearseKeeping } from './keep-rows';
import { mayChangeIt } from './record-in-change';
import { once } from '../workspace/once';
import { sheetToKeep, toKeep } from './sheet-to-keep';
import { filesGoWith } from '../files/go-with';

export interface Sent {
  readonly number: string;
  readonly state: SubmissionState;
  readonly version: number;
}

/**
 * Sends a draft, or a sent-back submission again. The answers are checked here with the same core that ran in the
 * browser, and here alone it is decided. The number is given at the first sending.
 */
export async function sendSubmission(
  context: Context,
  id: string,
  input: { key: string; version: number },
): Promise<Result<Sent, Refusal>> {
  return asPerson({ person: context.person.id }, (tx, catalogue) =>
    once(tx, context, input.key, { operation: 'send', of: id, said: input.version }, () =>
      draftSent(tx, catalogue, context, id, input.version),
    ),
  );
}

/** The same within a transaction in which it is asked once. */
export async function draftSent(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  id: string,
  version: number,
): Promise<Result<Sent, Refusal>> {
  const row = await readSubmission(tx, id, true);
  if (row === null) return fail(notFound('submission'));
  if (row.senderId !== context.person.id) return fail(forbidden('own-only'));
  if (row.state !== 'draft' && row.state !== 'sent-back')
    return fail(stale('already-sent', { state: row.state }));
  if (row.version !== version) return fail(stale('draft-changed', { version: row.version }));
  // What was sent back is finished by whoever sent it, whatever they may fill by now.
  if (row.state === 'draft' && !mayForm(catalogue, context.person.id, 'fill', row.formId))
    return fail(forbidden('fill'));
  const shut =
    row.state === 'draft' && row.ofRecord === null
      ? await shutForSending(tx, catalogue, context, row.formId)
      : null;
  if (shut !== null) return fail(forbidden(shut));
  const release = await readRelease(tx, catalogue, row.releaseId);
  if (release === null) return fail(notFound('release'));
  if (row.ofRecord !== null) {
    const changed = { id: row.formId, design: release.design, record: row.ofRecord };
    if (!(await mayChangeIt(tx, catalogue, context.person.id, changed)))
      return fail(forbidden('change-by-form'));
  }
  const asked = toKeep(row, release);
  const made = await sheetToKeep(tx, catalogue, context, asked);
  if (!made.ok) return fail(invalid(...made.error));
  const { sheet, changing } = made.value;
  const stood = stoodBefore(changing?.was ?? null);
  const issues = sheetIssues(sheet).filter((one) => !stood(sheet, one));
  if (issues.length > 0) return fail(invalid(...issues));
  if (!changesAnything(catalogue, context, made.value)) return fail(invalid(issue('nothing-changed', [])));
  const lost = await filesGoWith(tx, id, sheet, changing?.was ?? null);
  if (lost.length > 0) return fail(invalid(...lost));
  const told = toldOf(sheet, catalogue);
  const next = advance({ ...draftState, state: row.state }, { t: 'send' }, context.person.id, {
    steps: stepsFor(release.design, row.senderId, catalogue, told),
    sender: row.senderId,
    skipped: new Set(told.skipped),
  });
  if (!next.ok) return next;
  const known = row.number ?? changing?.now.number ?? null;
  const of = asked.of === null || changing === null ? null : { ...asked.of, base: changing.now.answers };
  const filled = { ...asked, answers: sheet.answers(), of };
  // Where nobody is asked it is kept right away, and the keeping itself refuses.
  const refused =
    next.value.state.state === 'kept'
      ? []
      : await rehearseKeeping(tx, catalogue, context, made.value, { ...filled, number: known ?? id });
  if (refused.length > 0) return fail(invalid(...refused));
  // From here on it is asked about as it changes the record now.
  if (of !== null)
    await updateDraft(tx, id, context.now, {
      answers: filled.answers,
      version: row.version,
      base: of.base,
    });
  // The counter is locked from here on, so it comes as late as can be.
  const number = known ?? (await nextNumber(tx, release.design.table.id));
  const { state, effects } = next.value;
  await moveSubmission(tx, id, {
    event: 'send',
    state,
    word: '',
    sent: { number, answers: filled.answers, told },
    at: context.now,
  });
  const kept = await carryOut(tx, catalogue, context, { ...filled, number, sheet: made.value }, effects);
  return kept.ok ? ok({ number, state: state.state, version: row.version + 1 }) : kept;
}
