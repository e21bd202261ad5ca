import { duplicateQuestion, nudgeQuestion, placeQuestion, type Home } from '../../core/form/change/arrange';
import { applied, inverted } from '../../core/form/change/design-change';
import { allQuestions, type FormDesign, type Question, type TableTarget } from '../../core/form/design';
import { removeQuestion } from '../../core/form/edit';
import { keyFor } from '../../core/form/key';
import { newShortId, newUuid } from '../../core/kernel/ids';
import { sayWithUndo } from '../kit/say';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

/** A table of its own for repeating rows, named after the form and the question. */
export function tableForRows(
  bench: Workbench,
  { table, title }: FormDesign,
  { key, label }: { readonly key: string; readonly label: string },
): TableTarget {
  return {
    id: newUuid(),
    key: keyFor(`${table.key}_${key}`, new Set(bench.data.tables.map((one) => one.key)), 'rows'),
    label: `${title}: ${label}`.slice(0, 200),
    prefix: `${table.prefix}${key[0]?.toUpperCase() ?? 'L'}`.slice(0, 6),
  };
}

/** They go with the checks on them, which is said. */
export function takeOut(bench: Workbench, ids: readonly string[]): void {
  const before = bench.design;
  const gone = allQuestions(before).filter(({ id }) => ids.includes(id));
  const [first] = gone;
  if (first === undefined) return;
  const after = ids.reduce(removeQuestion, before);
  const lost = before.checks.length - after.checks.length;
  const changes = bench.edit((now) => ids.reduce(removeQuestion, now));
  bench.select(neighbourOf(before, after, first.id));
  const what = gone.length === 1 ? first.label || speak`The line` : speak`${gone.length} lines`;
  sayWithUndo(
    speak`${what} taken out${lost === 0 ? '' : speak`, with ${lost === 1 ? speak`the check` : speak`the ${lost} checks`} there`}`,
    // Also after other edits: only what was taken out comes back.
    () => bench.edit((now) => applied(now, inverted(changes))),
  );
}

/** Whatever stands where it stood, so that the keyboard goes on from there. */
function neighbourOf(before: FormDesign, after: FormDesign, id: string): string | null {
  const left = new Set(allQuestions(after).map((one) => one.id));
  const order = allQuestions(before).map((one) => one.id);
  const at = order.indexOf(id);
  return (
    order.slice(at).find((one) => left.has(one)) ??
    order
      .slice(0, at)
      .reverse()
      .find((one) => left.has(one)) ??
    null
  );
}

export function duplicateLine(bench: Workbench, id: string): void {
  bench.edit((now) => {
    const { design, copy } = duplicateQuestion(now, id, newShortId, (rows: Question) =>
      tableForRows(bench, now, rows),
    );
    if (copy !== null) bench.select(copy);
    return design;
  });
}

export function moveLine(bench: Workbench, id: string, by: 1 | -1): void {
  bench.edit((design) => nudgeQuestion(design, id, by));
}

/** Several lines to one place, in the order they stand in. */
export function placeLines(bench: Workbench, ids: readonly string[], home: Home): void {
  bench.edit((design) =>
    allQuestions(design)
      .map(({ id }) => id)
      .filter((id) => ids.includes(id))
      .reduce((now, id) => placeQuestion(now, id, home), design),
  );
}
