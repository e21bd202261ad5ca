import { readTests } from '../expression/read';
import { testsToShown, testsToStored, toShown } from '../expression/stored-text';
import type { Scope } from '../expression/type';
import { issue, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { testOf, type Rule, type RuleCondition } from '../rules/rules';
import { readTestWords, testWords, type Known } from './test-words';

/** A test as it stands in its cell: in words where they are read as the same, else as it is written. */
export function cellText(
  row: Rule,
  { id, expression }: RuleCondition,
  scope: Scope,
  known: Known | null,
): string {
  const stored = testOf(row, id);
  if (stored === '') return 'any';
  const shown = testsToShown(stored, scope, expression);
  return (known === null ? null : testWords(shown, known)) ?? shown;
}

/** `5,000` is one number, whatever a list of tests would make of it. */
const THOUSANDS = /(?<=\d),(?=\d{3}(?!\d))/g;

/** What is typed into a cell: FEEL, or words. Gives stored text; refused with its place in what was typed. */
export function typedTest(
  typed: string,
  { expression }: RuleCondition,
  scope: Scope,
  known: Known | null,
): Result<string, Issue[]> {
  const text = known?.type.t === 'number' ? typed.replace(THOUSANDS, '') : typed;
  const of = toShown(expression, scope);
  const words = known === null ? null : readTestWords(text, known);
  const isTest = (one: string): boolean => one === '' || readTests(one, scope, of).ok;
  // A choice may be called as an answer is; then the choice is meant.
  const tried = known?.choices === undefined ? [text.trim(), words] : [words, text.trim()];
  const test = tried.find((one) => one !== null && isTest(one));
  if (test != null) return ok(test === '-' ? '' : testsToStored(test, scope, of));
  const read = readTests(text, scope, of);
  const choices = known?.choices;
  // What names nothing that is offered, and has none of the signs of an expression, is a choice that is not there.
  if (choices !== undefined && !/["<>=()[\]?]/.test(text))
    return fail([
      issue('rule-choice-unknown', [], {
        text: text.trim(),
        choices: choices.map(({ label }) => label).join(', '),
      }),
    ]);
  return read.ok ? ok(testsToStored(text, scope, of)) : read;
}
