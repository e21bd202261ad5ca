import type { FormDesign, Question } from '../form/design';
import { choiceIssues, labelIssues } from '../form/label-issues';
import { issue, type Issue } from '../kernel/issue';
import { mergedFields, mergedList } from '../kernel/merge';
import type { Column, ColumnChoice, Table } from './model';

/** Choices that several columns and questions take theirs from: changed in one place, for all of them. */
export interface ChoiceList {
  readonly id: string;
  readonly label: string;
  /** What it is for, in its owner's words. */
  readonly description: string;
  readonly choices: readonly ColumnChoice[];
  /** Grows with every change; a change names the version it began from. */
  readonly version: number;
}

export type ListsById = ReadonlyMap<string, ChoiceList>;

/** A column as its list says it is now. Of a list that is gone it keeps the choices it had, as its own. */
export function withListOf<T extends Pick<Column, 'choices' | 'list'>>(column: T, lists: ListsById): T {
  const name = column.list ?? null;
  const list = name === null ? undefined : lists.get(name.id);
  return {
    ...column,
    ...(list === undefined
      ? { list: null }
      : { list: { id: list.id, label: list.label }, choices: list.choices }),
  };
}

export function tableWithLists(table: Table, lists: ListsById): Table {
  return {
    ...table,
    columns: table.columns.map((column) => withListOf(column, lists)),
    retired: table.retired.map((column) => withListOf(column, lists)),
  };
}

/** The same for the questions of a form. */
export function designWithLists(design: FormDesign, lists: ListsById): FormDesign {
  const filled = <T extends Question>(question: T): T => {
    if (!('choices' in question) || question.list === undefined) return question;
    const list = lists.get(question.list.id);
    const { list: _gone, ...own } = question;
    return (
      list === undefined
        ? own
        : { ...question, list: { id: list.id, label: list.label }, choices: list.choices }
    ) as T;
  };
  return {
    ...design,
    sections: design.sections.map((section) => ({
      ...section,
      questions: section.questions.map((one) =>
        one.kind === 'rows' ? { ...one, columns: one.columns.map(filled) } : filled(one),
      ),
    })),
  };
}

/** Whether a form takes choices from a list. */
export const usesList = (design: FormDesign, list: string): boolean =>
  design.sections.some(({ questions }) =>
    questions.some((one) =>
      (one.kind === 'rows' ? one.columns : [one]).some(
        (field) => 'choices' in field && field.list?.id === list,
      ),
    ),
  );

/** Paths: `['label']`, `['choices']`. */
export function listIssues(wanted: ChoiceList, others: readonly ChoiceList[]): Issue[] {
  const label = wanted.label.trim().toLowerCase();
  const taken = others.some((one) => one.id !== wanted.id && one.label.trim().toLowerCase() === label);
  return [
    ...labelIssues(wanted.label, ['label']),
    ...(taken ? [issue('list-label-taken', ['label'], { list: wanted.label })] : []),
    ...choiceIssues(wanted.choices, ['choices']),
  ];
}

export type ListChange =
  | { readonly t: 'make'; readonly label: string; readonly choices: number }
  | { readonly t: 'rename'; readonly label: string; readonly before: string }
  | { readonly t: 'describe' }
  | { readonly t: 'relabel'; readonly choice: ColumnChoice; readonly before: string }
  | { readonly t: 'add' | 'retire' | 'offer' | 'remove'; readonly choice: ColumnChoice }
  | { readonly t: 'order' };

/** What a change of a list does. Choices are told apart by their codes. */
export function planList(before: ChoiceList | null, after: ChoiceList): ListChange[] {
  if (before === null) return [{ t: 'make', label: after.label, choices: after.choices.length }];
  const old = byCode(before.choices);
  const wanted = byCode(after.choices);
  const changes: ListChange[] = [
    ...(before.label === after.label
      ? []
      : [{ t: 'rename', label: after.label, before: before.label } as const]),
    ...(before.description === after.description ? [] : [{ t: 'describe' } as const]),
    ...after.choices.flatMap((choice) => choiceChanges(old.get(choice.code), choice)),
    ...before.choices
      .filter(({ code }) => !wanted.has(code))
      .map((choice) => ({ t: 'remove', choice }) as const),
  ];
  const order = (choices: readonly ColumnChoice[], others: ReadonlyMap<string, unknown>): string =>
    choices
      .filter(({ code }) => others.has(code))
      .map(({ code }) => code)
      .join('\n');
  return order(before.choices, wanted) === order(after.choices, old) ? changes : [...changes, { t: 'order' }];
}

function choiceChanges(old: ColumnChoice | undefined, choice: ColumnChoice): ListChange[] {
  if (old === undefined) return [{ t: 'add', choice }];
  const [was, is] = [old.retired === true, choice.retired === true];
  return [
    ...(old.label === choice.label ? [] : [{ t: 'relabel', choice, before: old.label } as const]),
    ...(was === is ? [] : [{ t: is ? 'retire' : 'offer', choice } as const]),
  ];
}

const byCode = (choices: readonly ColumnChoice[]): Map<string, ColumnChoice> =>
  new Map(choices.map((choice) => [choice.code, choice]));

/** What `mine` changed of `base`, on `theirs`: what only they changed stays theirs, what both changed is mine. */
export const rebasedList = (base: ChoiceList, mine: ChoiceList, theirs: ChoiceList): ChoiceList =>
  mergedFields(base, mine, theirs, {
    choices: (old, wanted, known) => mergedList(old, wanted, known, ({ code }) => code, mergedFields),
  }).value;

export const offered = (choices: readonly ColumnChoice[]): readonly ColumnChoice[] =>
  choices.filter(({ retired }) => retired !== true);
