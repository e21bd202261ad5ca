import type { ExpressionFacts } from '../../kernel/issue';
import type { Sentences } from './sentences';
import { words, orMeant, typeWord } from './words';

/** Of an expression, for somebody who has never written a program. */
export const expressionSentences: Sentences<ExpressionFacts> = {
  'expression-empty': () => 'Write what to calculate',
  'expression-too-long': ({ most }) => `The expression is longer than ${most} characters`,
  'expression-broken': () => 'Something is missing or extra here',
  'expression-unsupported': ({ text }) => `“${words(text)}” cannot be used in an expression here yet`,
  'unknown-name': ({ meant, name }) => `Nothing here is called ${words(name)}${orMeant(meant)}`,
  'unknown-function': ({ meant, name }) => `There is no function called ${words(name)}${orMeant(meant)}`,
  'unknown-column': ({ meant, name }) => `There is no column called ${words(name)}${orMeant(meant)}`,
  'not-a-path': ({ given, name }) => `${words(name)} cannot be taken from ${typeWord(given)}`,
  'wrong-type': ({ given, wanted }) => `This is ${typeWord(given)} where ${typeWord(wanted)} is needed`,
  'argument-count': ({ given, least, most, name }) =>
    `${words(name)} needs ${least === most ? least : `${least} to ${most}`} values; ${given} given`,
  circular: ({ circle }) => `These need each other to be calculated: ${words(circle)}`,
  'result-type': ({ given, wanted }) => `This gives ${typeWord(given)}; ${typeWord(wanted)} is needed`,
  'expression-too-deep': ({ most }) =>
    `There are more than ${most} steps inside one another; work a part of it out in an answer of its own`,
  'bracket-open': ({ bracket }) => `The bracket ${words(bracket)} is not closed`,
  'bracket-stray': ({ bracket }) => `The bracket ${words(bracket)} closes nothing`,
  slip: ({ given, meant }) => slipSentence(words(given), words(meant)),
  'name-twice': ({ name }) => `The name ${words(name)} already means something here; take another`,
  'not-a-list': ({ given }) =>
    `This is ${typeWord(given)}, and only a list or repeating rows can be gone through`,
  'not-a-condition': ({ given }) =>
    `After “if” comes something that holds or does not; this is ${typeWord(given)}. Compare it, as in … > 0`,
  'not-a-moment': ({ text }) =>
    `${words(text)} is no date, time or duration; write 2026-11-23, 14:30:00, 2026-11-23T14:30:00, P14D or P1M`,
  'not-a-duration': () =>
    'A duration is written as P14D, PT2H30M, P1Y or P6M, and months are not mixed with days',
  'number-too-long': ({ most }) => `Numbers have at most ${most} digits`,
  'list-where-one': ({ given, wanted }) =>
    `This is ${typeWord(given)} where ${typeWord(wanted)} is needed. Add it up with sum( ), take one with [1], or go through it with every … satisfies …`,
  'not-in-sql': ({ what }) =>
    `The database cannot calculate “${words(what)}” for existing rows; it is calculated when a sheet is filled`,
  'too-many-steps': () => 'This takes too many steps to calculate; go through fewer things',
  'sheet-too-heavy': ({ given, most }) =>
    `All calculations together could take ${words(given)} steps when every row is filled; a sheet may take ${words(most)}. Allow fewer rows, or go through fewer things`,
};

function slipSentence(given: string, meant: string): string {
  if (given.startsWith("'") || /^[“”„]/.test(given)) return 'Text stands between straight quotes: "…"';
  if (meant === 'a number in full') return `Write ${given} as ${meant}`;
  return meant === 'not( )'
    ? 'Write not( ) with brackets around what is not to hold'
    : `Write ${meant} instead of ${given}`;
}
