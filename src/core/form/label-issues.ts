import { issue, type Issue } from '../kernel/issue';
import { limits } from '../limits';

/** What is wrong with the words of a form, a question, a table or a column. */
export function labelIssues(label: string, path: Issue['path']): Issue[] {
  if (label.trim() === '') return [issue('label-missing', path)];
  return [...label].length > limits.label ? [issue('label-too-long', path, { most: limits.label })] : [];
}

export function choiceIssues(
  choices: readonly { code: string; label: string }[],
  path: Issue['path'],
): Issue[] {
  if (choices.length === 0) return [issue('choices-missing', path)];
  const labels = choices.map(({ label }) => label.trim());
  const repeated =
    labels.find((label, i) => labels.indexOf(label) !== i) ??
    choices.find(({ code }, i) => choices.findIndex((one) => one.code === code) < i)?.code;
  return [
    ...(labels.includes('') ? [issue('choice-label-missing', path)] : []),
    ...(repeated === undefined ? [] : [issue('choice-repeated', path, { label: repeated })]),
    ...(choices.length > limits.choices
      ? [issue('too-many', path, { what: 'choices', most: limits.choices })]
      : []),
  ];
}
