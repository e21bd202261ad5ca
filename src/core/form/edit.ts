import type { Check } from '../check/check';
import { PEOPLE } from '../expression/type';
import type { ColumnChoice } from '../table/model';
import type { FieldQuestion, FormDesign, Question, QuestionKind, RowsQuestion, TableTarget } from './design';
import { groupsIn, groupsOf, questionsOf } from './design';
import { keyFor } from './key';

/** Edits of a design: each gives a new design and leaves the old one as it was, so that undo is to keep it. */

/** Where a question stands: in a section, or as a column of a repeating group. */
export function replaceQuestion(
  design: FormDesign,
  id: string,
  change: (question: Question) => Question,
): FormDesign {
  const inGroup = (group: RowsQuestion): RowsQuestion => ({
    ...group,
    columns: group.columns.map((column) => (column.id === id ? (change(column) as FieldQuestion) : column)),
  });
  return mapQuestions(design, (question) =>
    question.id === id ? change(question) : question.kind === 'rows' ? inGroup(question) : question,
  );
}

function mapQuestions(design: FormDesign, change: (question: Question) => Question): FormDesign {
  return {
    ...design,
    sections: design.sections.map((section) => ({ ...section, questions: section.questions.map(change) })),
  };
}

export function addQuestion(design: FormDesign, section: string, question: Question): FormDesign {
  return {
    ...design,
    sections: design.sections.map((one) =>
      one.id === section ? { ...one, questions: [...one.questions, question] } : one,
    ),
  };
}

export function addColumn(design: FormDesign, group: string, column: FieldQuestion): FormDesign {
  return mapQuestions(design, (question) =>
    question.id === group && question.kind === 'rows'
      ? { ...question, columns: [...question.columns, column] }
      : question,
  );
}

/**
 * Takes a question or column away with its totals, the rows that stand in its rows, and the checks that stood
 * at any of it. Expressions that read it are reported, not rewritten.
 */
export function removeQuestion(design: FormDesign, id: string): FormDesign {
  const rows = findGroup(design, id);
  const groups = rows === undefined ? [] : [rows, ...groupsIn(design, rows)];
  const gone = new Set([id, ...groups.flatMap((group) => [group, ...group.columns].map((one) => one.id))]);
  const sections = design.sections.map((section) => ({
    ...section,
    questions: section.questions
      .filter((question) => !gone.has(question.id))
      .map((question) =>
        question.kind !== 'rows'
          ? question
          : {
              ...question,
              columns: question.columns.filter((column) => !gone.has(column.id)),
              totals: question.totals.filter((total) => !gone.has(total.column) && !gone.has(total.id)),
            },
      ),
  }));
  return { ...design, sections, checks: design.checks.filter((check) => !gone.has(check.on)) };
}

const findGroup = (design: FormDesign, id: string): RowsQuestion | undefined =>
  groupsOf(design).find((group) => group.id === id);

/** The keys a new question may not take: those of the form, or those of the group it becomes a column of. */
export function keysTaken(design: FormDesign, group?: string): Set<string> {
  if (group !== undefined) return new Set(findGroup(design, group)?.columns.map(({ key }) => key));
  return new Set(
    questionsOf(design).flatMap((question) => [
      question.key,
      ...(question.kind === 'rows' ? question.totals.map(({ key }) => key) : []),
    ]),
  );
}

/** What an owner may ask for: a person is picked from the directory. */
export type AskedKind = QuestionKind | 'person';
export const askedKind = (question: Question): AskedKind =>
  question.kind === 'lookup' && question.table === PEOPLE ? 'person' : question.kind;
/** A person is found by their address and known by their place. */
const SHOWN_OF_PEOPLE = ['place', 'email'];

/** Turns a question into another kind, keeping what both have; one for money is asked in `currency` (ISO 4217). */
export function asKind(
  question: { id: string; key: string; label: string; hint: string; required: boolean },
  kind: AskedKind,
  table: TableTarget,
  currency = '',
): Question {
  const base = {
    id: question.id,
    key: question.key,
    label: question.label,
    hint: question.hint,
    required: question.required,
  };
  switch (kind) {
    case 'text':
      return { ...base, kind, long: false };
    case 'whole':
      return { ...base, kind, unit: '' };
    case 'decimal':
      return { ...base, kind, decimals: 2, unit: '' };
    case 'money':
      return { ...base, kind, decimals: 2, unit: currency };
    case 'date':
    case 'yes-no':
    case 'time':
    case 'date-time':
    case 'e-mail':
    case 'web-address':
    case 'phone':
      return { ...base, kind };
    case 'confirmation':
      return { ...base, kind, required: true, statement: '' };
    case 'choice':
    case 'choices':
      return { ...base, kind, choices: choicesIn(question) };
    case 'files':
      return { ...base, kind, what: 'photos', most: 5 };
    case 'fixed-text':
      return { ...base, required: false, kind, text: '' };
    case 'lookup':
      return { ...base, kind, table: '', show: [] };
    case 'person':
      return { ...base, kind: 'lookup', table: PEOPLE, show: SHOWN_OF_PEOPLE };
    case 'calculated':
      return { ...base, required: false, kind, expression: '', decimals: 2, unit: '' };
    case 'rows':
      return { ...base, kind, columns: [], least: 1, most: 50, totals: [], table };
  }
}

const choicesIn = (question: object): readonly ColumnChoice[] =>
  'choices' in question ? (question.choices as readonly ColumnChoice[]) : [];

/** Choices from lines of text; a line that is there already keeps its code, so that stored codes go on meaning what they meant. */
export function choicesFrom(
  text: string,
  before: readonly { code: string; label: string }[],
): { code: string; label: string }[] {
  const labels = [
    ...new Set(
      text
        .split('\n')
        .map((line) => line.trim())
        .filter((line) => line !== ''),
    ),
  ];
  const taken = new Set(before.map(({ code }) => code));
  return labels.map((label) => {
    const known = before.find((one) => one.label === label);
    if (known !== undefined) return known;
    const code = keyFor(label, taken, 'choice');
    taken.add(code);
    return { code, label };
  });
}

export function replaceCheck(design: FormDesign, id: string, change: Partial<Check>): FormDesign {
  return {
    ...design,
    checks: design.checks.map((check) => (check.id === id ? { ...check, ...change } : check)),
  };
}
