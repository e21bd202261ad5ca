import type { BeyondFigure, PastCases } from '../../contract/past-cases';
import {
  alikeBy,
  beyondUsual,
  ENOUGH,
  figuresOf,
  rowAlikeBy,
  tellingFigure,
  type Figure,
  type Spread,
} from '../../core/approval/compared';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { isBig, isRecord } from '../../core/expression/value';
import { shown, type Place } from '../../core/form/cells';
import type { FieldQuestion, FormDesign } from '../../core/form/design';
import type { Sheet } from '../../core/form/sheet';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Column, Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { spreadsOf } from '../../data/runtime/records/spread';
import { readRelease } from '../../data/system/forms';
import { readSubmission, type SubmissionRow } from '../../data/system/submissions';
import { alikeSent } from '../../data/system/submission-lists';
import { asOwner, asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { sheetOf } from './sheet-of';

const SHOWN = 5;
/** Rows whose figures are held against others; a longer sheet is looked at by eye. */
const ROWS = 40;

/** What was sent before that is like something that was sent, and which of its figures lie far beyond what was kept. To all who see it. */
export async function pastCases(context: Context, id: string): Promise<Result<PastCases, Refusal>> {
  const found = await asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const row = await readSubmission(tx, id);
    const sheet = row === null ? null : await sheetFor(tx, catalogue, context, row);
    if (row === null || sheet === null) return fail(notFound('submission'));
    const { design } = sheet.form;
    const isOwn = row.senderId === context.person.id;
    return ok({ design, sheet, isOwn, cases: await casesLike(tx, catalogue, context, row, sheet) });
  });
  if (!found.ok) return found;
  const { design, sheet, isOwn, cases } = found.value;
  // How all figures lie is for those who decide, not for whoever sends.
  const beyond = isOwn ? ok([]) : await figuresBeyond(context, design, sheet);
  if (!beyond.ok) return beyond;
  const like = alikeIn(sheet, alikeBy(design), null);
  return ok({
    by: like === null ? null : { label: like.question.label, shown: like.shown },
    figure: tellingFigure(design)?.label ?? '',
    cases,
    beyond: beyond.value,
  });
}

/** Something that was sent, as it stands. */
export async function sheetFor(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  row: SubmissionRow,
): Promise<Sheet | null> {
  const release = await readRelease(tx, catalogue, row.releaseId);
  const { id, answers, senderId } = row;
  return release === null
    ? null
    : sheetOf(tx, catalogue, context, {
        id,
        release,
        answers,
        senderId,
        use: row.ofRecord === null ? 'new' : 'change',
        asSeen: true,
      });
}

/** By what others are alike, with its value as it is stored and as it is shown; null where it is not answered. */
function alikeIn(sheet: Sheet, question: FieldQuestion | null, row: readonly [string, string] | null) {
  if (question === null) return null;
  const place: Place = row === null ? [question.id] : [...row, question.id];
  const value = sheet.value(place);
  const stored = isRecord(value) ? value.id : typeof value === 'string' ? value : null;
  return stored === null ? null : { question, stored, shown: shown(question, value) };
}

async function casesLike(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  row: SubmissionRow,
  sheet: Sheet,
): Promise<PastCases['cases']> {
  const like = alikeIn(sheet, alikeBy(sheet.form.design), null);
  if (like === null) return [];
  const rows = await alikeSent(
    tx,
    { form: row.formId, except: row.id, question: like.question.id, value: like.stored },
    SHOWN,
  );
  const cases: PastCases['cases'][number][] = [];
  for (const one of rows) {
    const past = await sheetFor(tx, catalogue, context, one);
    const figure = past === null ? null : tellingFigure(past.form.design);
    cases.push({
      id: one.id,
      number: one.number ?? '',
      state: one.state,
      sentAt: (one.sentAt ?? one.updatedAt).toISOString(),
      figure: past === null || figure === null ? '' : shown(figure, past.value([figure.id])),
    });
  }
  return cases;
}

/**
 * As the owner role, for figures count whoever may see the records; nothing leaves but how many they are, and
 * how they lie, where they are enough.
 */
export function figuresBeyond(
  context: Context,
  design: FormDesign,
  sheet: Sheet,
): Promise<Result<BeyondFigure[], Refusal>> {
  return asOwner({ person: context.person.id }, async (tx, { tables }) => {
    const found: BeyondFigure[] = [];
    const figures = figuresOf(design);
    const own = figures.filter(({ group }) => group === null);
    found.push(...(await beyondIn(tx, sheet, tables.get(design.table.id), own, alikeBy(design), null)));
    for (const group of new Set(figures.flatMap((one) => one.group ?? []))) {
      const of = figures.filter((one) => one.group === group);
      for (const row of sheet.filledRows(group.id).slice(0, ROWS))
        found.push(
          ...(await beyondIn(tx, sheet, tables.get(group.table.id), of, rowAlikeBy(group), [
            group.id,
            row.id,
          ])),
        );
    }
    return ok(found);
  });
}

/** The figures of a form, or of one of its rows, that lie beyond those like it; beyond all, where there are too few like it. */
async function beyondIn(
  tx: Tx,
  sheet: Sheet,
  table: Table | undefined,
  figures: readonly Figure[],
  by: FieldQuestion | null,
  row: readonly [string, string] | null,
): Promise<BeyondFigure[]> {
  if (table === undefined) return [];
  const columnOf = (id: string): Column | undefined => table.columns.find((column) => column.id === id);
  const placeOf = (id: string): Place => (row === null ? [id] : [...row, id]);
  const given = figures.flatMap(({ question }) => {
    const value = sheet.value(placeOf(question.id));
    const column = columnOf(question.id);
    return isBig(value) && column !== undefined ? [{ question, value, column }] : [];
  });
  const columns = given.map(({ column }) => column);
  const like = alikeIn(sheet, by, row);
  const likeColumn = like === null ? undefined : columnOf(like.question.id);
  const some =
    like === null || likeColumn === undefined
      ? new Map<string, Spread>()
      : await spreadsOf(tx, { table, columns, alike: { column: likeColumn, value: like.stored } });
  const isFew = columns.some(({ id }) => (some.get(id)?.count ?? 0) < ENOUGH);
  const all = isFew ? await spreadsOf(tx, { table, columns, alike: null }) : new Map<string, Spread>();
  return given.flatMap(({ question, value }) => {
    const near = some.get(question.id);
    const spread = near !== undefined && near.count >= ENOUGH ? near : all.get(question.id);
    const beyond = spread === undefined ? null : beyondUsual(value, spread);
    if (beyond === null) return [];
    return [
      {
        place: placeOf(question.id),
        label: question.label,
        shown: shown(question, value),
        times: beyond.times,
        middle: shown(question, beyond.middle),
        count: beyond.count,
        like: spread === near ? (like?.shown ?? '') : '',
      },
    ];
  });
}
