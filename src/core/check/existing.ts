import {
  groupsOf,
  questionsOf,
  type ExistingCheck,
  type FieldQuestion,
  type FormDesign,
  type Period,
} from '../form/design';
import { issue, type Issue } from '../kernel/issue';

/** The questions among whose answers a check may compare: those of the group its line stands in, or of the form. */
function beside(design: FormDesign, check: ExistingCheck): readonly FieldQuestion[] {
  const group = groupsOf(design).find(({ columns }) => columns.some(({ id }) => id === check.on));
  return group?.columns ?? questionsOf(design).filter((one) => one.kind !== 'rows');
}

const datesOf = ({ rule }: ExistingCheck): string[] =>
  rule.t === 'no-overlap'
    ? [rule.from, rule.to]
    : rule.t === 'at-most' && rule.per !== 'ever'
      ? [rule.date ?? '']
      : [];

export function existingIssues(design: FormDesign): Issue[] {
  return (design.existing ?? []).flatMap((check) => {
    const questions = beside(design, check);
    const stands = [check.on, ...check.same].every((id) => questions.some((one) => one.id === id));
    const dated = datesOf(check).every((id) =>
      questions.some(
        (one) =>
          one.id === id && (one.kind === 'date' || (one.kind === 'calculated' && one.gives === 'date')),
      ),
    );
    const path = ['checks', check.id];
    return [
      ...(stands && dated && (check.rule.t !== 'unique' || check.same.length > 0)
        ? []
        : [issue('existing-columns', path)]),
      ...(check.message.trim() === '' ? [issue('check-message-missing', path)] : []),
    ];
  });
}

const periods: Readonly<Record<Period, string>> = {
  day: 'on one day',
  week: 'in one week',
  month: 'in one month',
  year: 'in one year',
  ever: 'in all',
};

/** The check as people say it, by the keys of its answers: `at most 2 in one month with the same bed, by planned_on`. */
export function existingSentence(check: ExistingCheck, design: FormDesign): string {
  const keyOf = (id: string | null) => beside(design, check).find((one) => one.id === id)?.key ?? '…';
  const same = check.same.map(keyOf).join(' and ');
  const { rule } = check;
  switch (rule.t) {
    case 'unique':
      return `no other record has the same ${same}`;
    case 'no-overlap':
      return `the days from ${keyOf(rule.from)} to ${keyOf(rule.to)} overlap with no other record${same === '' ? '' : ` with the same ${same}`}`;
    case 'at-most':
      return `at most ${rule.most} ${periods[rule.per]}${same === '' ? '' : ` with the same ${same}`}${rule.per === 'ever' ? '' : `, by ${keyOf(rule.date)}`}`;
  }
}
