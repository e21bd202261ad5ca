import { shown, type Place } from './cells';
import { isField, questionsOf, type FieldQuestion, type RowsQuestion } from './design';
import type { Sheet } from './sheet';
import { totalShown } from './totals';
import { speak } from '../wording/speak';

/** What reads differently in one sheet than in another of the same form: an answer, or a row that came or went. */
export interface SheetChange {
  /** `[question]`, `[group, row, question]` or `[group, row]`. */
  readonly place: readonly string[];
  readonly label: string;
  /** As it is read; empty where nothing stood there. */
  readonly before: string;
  readonly after: string;
}

/** In the order of the form. What is calculated is among them, for it changes as well. */
export function sheetChanges(was: Sheet, now: Sheet): SheetChange[] {
  const { design } = now.form;
  return questionsOf(design).flatMap((question): SheetChange[] => {
    if (question.kind === 'rows')
      return [...rowChanges(question, was, now), ...totalChanges(question, was, now)];
    return isField(question) ? answerChange(question, [question.id], was, now) : [];
  });
}

const answerChange = (question: FieldQuestion, place: Place, was: Sheet, now: Sheet): SheetChange[] =>
  change(place, question.label, shown(question, was.value(place)), shown(question, now.value(place)));

/** Of rows within rows, once for each row they stand in that stayed. */
function totalChanges(group: RowsQuestion, was: Sheet, now: Sheet): SheetChange[] {
  const { within } = group;
  const before = new Set(within === undefined ? [] : was.filledRows(within).map(({ id }) => id));
  const stayed = within === undefined ? [] : now.filledRows(within).filter(({ id }) => before.has(id));
  const places = (total: string): Place[] =>
    within === undefined ? [[total]] : stayed.map(({ id }): Place => [within, id, total]);
  return group.totals.flatMap((total) =>
    places(total.id).flatMap((place) => {
      const text = (sheet: Sheet): string => totalShown(group, total, sheet.value(place));
      return change(place, total.label, text(was), text(now));
    }),
  );
}

const change = (place: readonly string[], label: string, before: string, after: string): SheetChange[] =>
  before === after ? [] : [{ place, label, before, after: after || speak`empty` }];

function rowChanges(group: RowsQuestion, was: Sheet, now: Sheet): SheetChange[] {
  const [before, after] = [was.filledRows(group.id), now.filledRows(group.id)];
  const [old, kept] = [new Set(before.map(({ id }) => id)), new Set(after.map(({ id }) => id))];
  const rows = after.flatMap((row): SheetChange[] =>
    old.has(row.id)
      ? group.columns.flatMap((column) => {
          return answerChange(column, [group.id, row.id, column.id], was, now);
        })
      : [
          {
            place: [group.id, row.id],
            label: group.label,
            before: '',
            after: speak`new row ${gist(group, now, row.id)}`,
          },
        ],
  );
  const gone = before
    .filter(({ id }) => !kept.has(id))
    .map(({ id }) => ({
      place: [group.id, id],
      label: group.label,
      before: gist(group, was, id),
      after: 'removed',
    }));
  const stayed = (ids: readonly string[]): string => ids.filter((id) => old.has(id) && kept.has(id)).join();
  const moved =
    stayed(before.map(({ id }) => id)) === stayed(after.map(({ id }) => id))
      ? []
      : [{ place: [group.id], label: group.label, before: '', after: speak`in another order` }];
  return [...rows, ...gone, ...moved];
}

/** A row by its first answers. */
const gist = (group: RowsQuestion, sheet: Sheet, row: string): string =>
  group.columns
    .map((column) => shown(column, sheet.value([group.id, row, column.id])))
    .filter((text) => text !== '')
    .slice(0, 2)
    .join(' · ');
