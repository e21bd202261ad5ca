import type { SheetData } from '../../contract/sheet-from-server';
import { compileForm, type CompiledForm } from '../../core/form/compile-form';
import type { Answers } from '../../core/form/answers';
import { asRecords } from '../../core/form/picked-record';
import type { Place, Records } from '../../core/form/cells';
import { Sheet } from '../../core/form/sheet';
import { worldAt } from '../../core/workspace';
import { lineOf } from '../../core/form/line';
import { groupsIn, type FormDesign, type Question, type RowsQuestion } from '../../core/form/design';
import { linesOf, type Line } from '../../core/form/numbered-lines';
import type { Table } from '../../core/table/model';

/** The compiled form and its tables, once per page. */
export interface Model {
  readonly form: CompiledForm;
  readonly tables: ReadonlyMap<string, Table>;
}

export function modelOf(data: SheetData): Model {
  const tables = new Map(data.tables.map((table) => [table.id, table]));
  const form = compileForm(data.design, tables);
  // The server compiled this release before it sent it; here it cannot fail.
  if (!form.ok) throw new Error('this release does not compile');
  return { form: form.value, tables };
}

/** A sheet of these answers; `more` are records it picks besides those the server sent. */
export const sheetWith = (
  data: SheetData,
  { form, tables }: Model,
  answers: Answers,
  more: Records = new Map(),
): Sheet =>
  new Sheet(
    form,
    answers,
    new Map([...more, ...asRecords(data.picked, tables)]),
    worldAt(data.workspace, data.now, data.sender),
    { rowDefaults: data.rowDefaults },
  );

/**
 * The lines of a design by section; of a record that is there, without what is not shown of it. Their numbers
 * are those of the whole form.
 */
export function shownLines({ design, record }: SheetData): ReadonlyMap<string, readonly Line[]> {
  const lines = linesOf(design);
  if (record === null) return lines;
  const isShown = ({ onChange }: Question): boolean => onChange !== 'hidden';
  return new Map(
    [...lines].map(([section, list]) => [
      section,
      list.map((line) => ({
        ...line,
        questions: line.questions
          .filter(isShown)
          .map((one) => (one.kind === 'rows' ? { ...one, columns: one.columns.filter(isShown) } : one)),
      })),
    ]),
  );
}

/** The rows that stand in each row of a group, as far as they are shown. */
export function innerShown({ design, record }: SheetData, group: RowsQuestion): RowsQuestion[] {
  const isShown = ({ onChange }: Question): boolean => record === null || onChange !== 'hidden';
  return groupsIn(design, group)
    .filter((one) => isShown(one) && one.hidden !== true)
    .map((one) => ({ ...one, columns: one.columns.filter(isShown) }));
}

/** What is left for somebody to fill: nothing that fills itself. */
export const withoutHidden = (
  lines: ReadonlyMap<string, readonly Line[]>,
): ReadonlyMap<string, readonly Line[]> =>
  new Map(
    [...lines].map(([section, list]) => [
      section,
      list.map((line) => ({ ...line, questions: line.questions.filter(({ hidden }) => hidden !== true) })),
    ]),
  );

/** The lines of a section that are asked now, each with those of its questions that are. */
export const askedLines = (lines: readonly Line[] | undefined, sheet: Sheet): Line[] =>
  (lines ?? [])
    .map((line) => ({
      ...line,
      questions: line.questions.filter((question) => sheet.isAsked([question.id])),
    }))
    .filter((line) => line.questions.length > 0);

/** The number by which a place of a sheet is referred to. */
export const lineAtPlace = (design: FormDesign, sheet: Sheet, place: readonly (string | number)[]): string =>
  lineOf(design, (group) => sheet.rows(group), place);

/** The DOM id of the control of a place, by which the margin goes to it. */
export const controlId = (path: Place | readonly (string | number)[]): string => `at-${path.join('-')}`;

export function goTo(path: readonly (string | number)[]): void {
  const target =
    document.getElementById(controlId(path)) ?? document.getElementById(controlId(path.slice(0, 1)));
  if (target === null) return;
  target.scrollIntoView({ block: 'center' });
  const inner = target.matches('input, button, textarea, select')
    ? target
    : target.querySelector<HTMLElement>('input, textarea, button, [role="spinbutton"], [role="radio"]');
  (inner ?? target).focus();
}
