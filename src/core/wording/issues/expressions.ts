import type { ExpressionFacts } from '../../kernel/issue';
import type { Sentences } from './sentences';
import { words, orMeant, typeWord } from './words';
import { speak } from '../speak';

/** Of an expression, for somebody who has never written a program. */
export const expressionSentences: Sentences<ExpressionFacts> = {
  'expression-empty': () => speak`Write what to calculate`,
  'expression-too-long': ({ most }) => speak`The expression is longer than ${most} characters`,
  'expression-broken': () => speak`Something is missing or extra here`,
  'expression-unsupported': ({ text }) => speak`“${words(text)}” cannot be used in an expression here yet`,
  'unknown-name': ({ meant, name }) => speak`Nothing here is called ${words(name)}${orMeant(meant)}`,
  'unknown-function': ({ meant, name }) => speak`There is no function called ${words(name)}${orMeant(meant)}`,
  'unknown-column': ({ meant, name }) => speak`There is no column called ${words(name)}${orMeant(meant)}`,
  'not-a-path': ({ given, name }) => speak`${words(name)} cannot be taken from ${typeWord(given)}`,
  'wrong-type': ({ given, wanted }) => speak`This is ${typeWord(given)} where ${typeWord(wanted)} is needed`,
  'argument-count': ({ given, least, most, name }) =>
    speak`${words(name)} needs ${least === most ? least : speak`${least} to ${most}`} values; ${given} given`,
  circular: ({ circle }) => speak`These need each other to be calculated: ${words(circle)}`,
  'result-type': ({ given, wanted }) => speak`This gives ${typeWord(given)}; ${typeWord(wanted)} is needed`,
  'expression-too-deep': ({ most }) =>
    speak`There are more than ${most} steps inside one another; work a part of it out in an answer of its own`,
  'bracket-open': ({ bracket }) => speak`The bracket ${words(bracket)} is not closed`,
  'bracket-stray': ({ bracket }) => speak`The bracket ${words(bracket)} closes nothing`,
  slip: ({ given, meant }) => slipSentence(words(given), words(meant)),
  'name-twice': ({ name }) => speak`The name ${words(name)} already means something here; take another`,
  'not-a-list': ({ given }) =>
    speak`This is ${typeWord(given)}, and only a list or repeating rows can be gone through`,
  'not-a-condition': ({ given }) =>
    speak`After “if” comes something that holds or does not; this is ${typeWord(given)}. Compare it, as in … > 0`,
  'not-a-moment': ({ text }) =>
    speak`${words(text)} is no date, time or duration; write 2026-11-23, 14:30:00, 2026-11-23T14:30:00, P14D or P1M`,
  'not-a-duration': () =>
    speak`A duration is written as P14D, PT2H30M, P1Y or P6M, and months are not mixed with days`,
  'number-too-long': ({ most }) => speak`Numbers have at most ${most} digits`,
  'list-where-one': ({ given, wanted }) =>
    speak`This is ${typeWord(given)} where ${typeWord(wanted)} is needed. Add it up with sum( ), take one with [1], or go through it with every … satisfies …`,
  'not-in-sql': ({ what }) =>
    speak`The database cannot calculate “${words(what)}” for existing rows; it is calculated when a sheet is filled`,
  'too-many-steps': () => speak`This takes too many steps to calculate; go through fewer things`,
  'sheet-too-heavy': ({ given, most }) =>
    speak`All calculations together could take ${words(given)} steps when every row is filled; a sheet may take ${words(most)}. Allow fewer rows, or go through fewer things`,
};

function slipSentence(given: string, meant: string): string {
  if (given.startsWith("'") || /^[“”„]/.test(given)) return speak`Text stands between straight quotes: "…"`;
  if (meant === 'a number in full') return speak`Write ${given} as ${meant}`;
  return meant === 'not( )'
    ? speak`Write not( ) with brackets around what is not to hold`
    : speak`Write ${meant} instead of ${given}`;
}
