import type { ExistingCheck, Period } from './check';
import { groupsOf, fieldsOfForm, type FormDesign } from '../form/design';
import { issue, type Issue } from '../kernel/issue';
import type { Table } from '../table/model';
import { speak, spoken } from '../wording/speak';

/** What records can be held against each other by: a question, or a column. */
export interface Compared {
  readonly id: string;
  readonly key: string;
  readonly isDate: boolean;
}

/** The questions among whose answers a check of a form may compare: those of the group its line stands in, or of the form. */
export function comparedInForm(design: FormDesign, check: ExistingCheck): Compared[] {
  const group = groupsOf(design).find(({ columns }) => columns.some(({ id }) => id === check.on));
  const questions = group?.columns ?? fieldsOfForm(design);
  return questions.map((one) => ({
    id: one.id,
    key: one.key,
    isDate: one.kind === 'date' || (one.kind === 'calculated' && one.gives === 'date'),
  }));
}

/** The answers or columns by which a check holds records against each other. */
export const comparedBy = ({ same, rule }: ExistingCheck): string[] => [
  ...same,
  ...(rule.t === 'no-overlap' ? [rule.from, rule.to] : rule.t === 'at-most' ? [rule.date ?? ''] : []),
];

export const comparedInTable = ({ columns }: Pick<Table, 'columns'>): Compared[] =>
  columns.map(({ id, key, kind }) => ({ id, key, isDate: kind === 'date' }));

const datesOf = ({ rule }: ExistingCheck): string[] =>
  rule.t === 'no-overlap'
    ? [rule.from, rule.to]
    : rule.t === 'at-most' && rule.per !== 'ever'
      ? [rule.date ?? '']
      : [];

/** Whether what a check compares is there, and its days are days. */
export function existingIssues(check: ExistingCheck, compared: readonly Compared[]): Issue[] {
  const stands = [check.on, ...check.same].every((id) => compared.some((one) => one.id === id));
  const dated = datesOf(check).every((id) => compared.some((one) => one.id === id && one.isDate));
  const path = ['checks', check.id];
  return [
    ...(stands && dated && (check.rule.t !== 'unique' || check.same.length > 0)
      ? []
      : [issue('existing-columns', path)]),
    ...(check.message.trim() === '' ? [issue('check-message-missing', path)] : []),
  ];
}

/** How long records are counted together, as it is said. */
export const periodWords = spoken((): Readonly<Record<Period, string>> => ({
  day: speak`on one day`,
  week: speak`in one week`,
  month: speak`in one month`,
  year: speak`in one year`,
  ever: speak`in all`,
}));

/** The check as people say it, by the keys of what it compares: `at most 2 in one month with the same bed, by planned_on`. */
export function existingSentence(check: ExistingCheck, compared: readonly Compared[]): string {
  const keyOf = (id: string | null) => compared.find((one) => one.id === id)?.key ?? '…';
  const same = check.same.map(keyOf).join(speak` and `);
  const { rule } = check;
  switch (rule.t) {
    case 'unique':
      return speak`no other record has the same ${same}`;
    case 'no-overlap':
      return speak`the days from ${keyOf(rule.from)} to ${keyOf(rule.to)} overlap with no other record${same === '' ? '' : speak` with the same ${same}`}`;
    case 'at-most':
      return speak`at most ${rule.most} ${periodWords()[rule.per]}${same === '' ? '' : speak` with the same ${same}`}${rule.per === 'ever' ? '' : speak`, by ${keyOf(rule.date)}`}`;
  }
}
