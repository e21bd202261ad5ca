import { parser, trackVariables } from 'lezer-feel';
import { oncePer } from '../kernel/once-per';
import { fail, ok, type Result } from '../kernel/result';
import { issue, type Issue } from '../kernel/issue';
import type { Builtin } from './functions/builtin';
import { bracketTrouble } from './brackets';
import { builtins } from './functions/list';
import { typed } from './nodes/typed';
import { unaryTests } from './nodes/comparison';
import { firstSlip } from './slips';
import type { Expression, Local } from './tree';
import { EMPTY, YES_NO, type Scope, type Type } from './type';

/** Long enough for any rule a person writes; the parser's own trouble starts at sums of some 500 terms. */
export const LONGEST_EXPRESSION = 2_000;
/** Pieces inside one another, as a sum of this many terms has them: nobody reads more, and every walk over the tree stays shallow. */
export const DEEPEST_EXPRESSION = 250;
/** Problems reported at once: more than these help nobody. */
const MOST_ISSUES = 10;

export type SyntaxNode = ReturnType<typeof parser.parse>['topNode'];

/** A name that is good only within a piece of the expression, and its type. */
export interface InnerName {
  readonly local: Local;
  readonly type: Type;
}

/** A name as it stands in the text, and the id it was found to mean. */
export interface ResolvedName {
  readonly from: number;
  readonly to: number;
  readonly id: string;
}

/** What the typing rules of the nodes share: the text, the names, and where they report. */
export interface Reading {
  readonly text: string;
  readonly scope: Scope;
  readonly builtins: ReadonlyMap<string, Builtin>;
  /** The innermost last. */
  readonly inner: readonly InnerName[];
  /** What unary tests are asked of: the question mark in them. */
  readonly tested?: Expression;
  /** Depth of the node being read. */
  depth: number;
  report(code: Issue['code'], node: { from: number; to: number }, facts?: Issue['facts']): void;
  resolved(node: { from: number; to: number }, id: string): void;
  /** A slot nobody else uses. */
  slot(): number;
}

/** The same reading with more names, for a piece that has its own. */
export const within = (reading: Reading, ...names: InnerName[]): Reading => ({
  ...reading,
  inner: [...reading.inner, ...names],
});

/**
 * Reads FEEL text into a typed tree whose names are resolved to ids.
 * Every issue's facts carry `from` and `to`, its place in the text.
 */
export const read = (text: string, scope: Scope): Result<Expression, Issue[]> =>
  resultOf(readOnce(text, scope));

/** Every name of the text that means something of the scope, also where the rest cannot be read. In the order of the text. */
export function resolvedNames(text: string, scope: Scope): readonly ResolvedName[] {
  return readOnce(text, scope).names;
}

/**
 * Reads unary tests (DMN 1.5, 10.3.2.8: `> 5, [1..3]`, `not("a", "b")`, `-`) as a condition on what `of`
 * gives, itself text in the same scope. Nothing, and `-`, are always true. Issues are placed as those of
 * `read`.
 */
export const readTests = (text: string, scope: Scope, of: string): Result<Expression, Issue[]> =>
  resultOf(readOnce(text, scope, of));

/** The same as `resolvedNames`, of unary tests. */
export const resolvedNamesOfTests = (text: string, scope: Scope, of: string): readonly ResolvedName[] =>
  readOnce(text, scope, of).names;

const resultOf = ({ tree, issues }: WhatWasRead): Result<Expression, Issue[]> =>
  tree === null || issues.length > 0 ? fail([...issues]) : ok(tree);

interface WhatWasRead {
  readonly tree: Expression | null;
  readonly issues: readonly Issue[];
  readonly names: readonly ResolvedName[];
}

/**
 * Texts kept for each scope: a long form has some hundred, a table of rules as many tests, and whoever types
 * one leaves a text behind with each letter.
 */
const MOST_KEPT = 2_000;
const readings = oncePer<Scope, Map<string, WhatWasRead>>(() => new Map());

/** Reading is dear (0.2 to 0.8 ms), and a form that is designed asks for all its formulas again with each letter typed anywhere. */
function readOnce(text: string, scope: Scope, testsOf?: string): WhatWasRead {
  const kept = readings(scope);
  const key = testsOf === undefined ? text : `${testsOf}\0${text}`;
  const known = kept.get(key);
  if (known !== undefined) return known;
  const made = testsOf === undefined ? readWith(text, scope) : testsWith(text, scope, testsOf);
  const [oldest] = kept.keys();
  if (kept.size >= MOST_KEPT && oldest !== undefined) kept.delete(oldest);
  kept.set(key, made);
  return made;
}

/** What is read between the brackets of a text, and how; `tested` as in a reading. */
interface Grammar {
  readonly top: 'Expression' | 'UnaryTests';
  readonly node: (tops: readonly SyntaxNode[], reading: Reading) => Expression | null;
  readonly tested?: Expression;
}

const expressions: Grammar = { top: 'Expression', node: ([top], reading) => typed(top ?? null, reading) };

function testsWith(text: string, scope: Scope, of: string): WhatWasRead {
  // Where what is tested cannot be read itself, its tests are read as of anything: that is told at it, not at each of them.
  const tested = readOnce(of, scope).tree ?? NOTHING;
  if (/^\s*-?\s*$/.test(text)) return { tree: ALWAYS, issues: [], names: [] };
  return readWith(text, scope, {
    top: 'UnaryTests',
    tested,
    node: ([top], reading) => (top === undefined ? null : unaryTests(top, tested, reading)),
  });
}

const NOWHERE = { from: 0, to: 0 };
const NOTHING: Expression = { op: 'literal', value: null, type: EMPTY, span: NOWHERE };
const ALWAYS: Expression = { op: 'literal', value: true, type: YES_NO, span: NOWHERE };

function readWith(text: string, scope: Scope, { top, tested, node }: Grammar = expressions): WhatWasRead {
  const issues: Issue[] = [];
  const names = new Map<number, ResolvedName>();
  const reading: Reading = {
    ...newReading(text, scope, issues, (name) => names.set(name.from, name)),
    ...(tested !== undefined && { tested }),
  };
  const read = treeOf(reading, issues, { top, node });
  return { ...read, names: [...names.values()].sort((a, b) => a.from - b.from) };
}

function treeOf(
  reading: Reading,
  issues: Issue[],
  { top, node }: Grammar,
): { tree: Expression | null; issues: Issue[] } {
  const { text } = reading;
  const whole = { from: 0, to: text.length };
  if (text.trim() === '') return (reading.report('expression-empty', whole), { tree: null, issues });
  if (text.length > LONGEST_EXPRESSION)
    return (
      reading.report('expression-too-long', whole, { most: LONGEST_EXPRESSION }),
      { tree: null, issues }
    );
  const slip = firstSlip(text);
  if (slip !== null) reading.report('slip', slip, { given: slip.given, meant: slip.meant });
  const bracket = bracketTrouble(text, DEEPEST_BRACKETS);
  if (bracket !== null && slip === null)
    reading.report(bracket.t === 'deep' ? 'expression-too-deep' : `bracket-${bracket.t}`, bracket, {
      bracket: text.slice(bracket.from, bracket.to),
      most: DEEPEST_BRACKETS,
    });
  const parsed = parsedWithin(
    parsers[top](reading.scope),
    text,
    bracket === null ? MOST_STEPS : MOST_STEPS_UNPAIRED,
  );
  if (parsed === null) {
    if (issues.length === 0) reading.report('expression-too-deep', whole, { most: DEEPEST_EXPRESSION });
    return { tree: null, issues: issues.slice(0, 1) };
  }
  const tops = top === 'UnaryTests' ? [parsed.topNode] : topsOf(parsed.topNode);
  const tree = node(tops, reading);
  if ((tops.length !== 1 || tree === null) && issues.length === 0)
    reading.report('expression-broken', tops[1] ?? whole);
  // What comes after a slip or a bracket that pairs with nothing is only its consequence.
  return { tree, issues: slip === null && bracket === null ? issues : issues.slice(0, 1) };
}

/** Brackets in one another: more than these nobody follows. */
const DEEPEST_BRACKETS = 60;
/**
 * Steps of the parser: a sound text takes one for each word and sign, and 2 000 characters have some 600; one
 * it has to mend takes ever longer ones.
 */
const MOST_STEPS = 1_200;
const MOST_STEPS_UNPAIRED = 300;

/**
 * The syntax tree, or null when the parser would go on trying for long, or runs out of its own stack, as it
 * does over some hundred `if if if`.
 */
function parsedWithin(
  configured: typeof parser,
  text: string,
  steps: number,
): ReturnType<typeof parser.parse> | null {
  const parse = configured.startParse(text);
  try {
    for (let step = 0; step < steps; step++) {
      const tree = parse.advance();
      if (tree !== null) return tree;
    }
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
  }
  return null;
}

function newReading(
  text: string,
  scope: Scope,
  issues: Issue[],
  onName: (name: ResolvedName) => void,
): Reading {
  let slots = 0;
  return {
    text,
    scope,
    builtins,
    inner: [],
    depth: 0,
    report: (code, { from, to }, facts = {}) => {
      if (issues.length < MOST_ISSUES) issues.push(issue(code, [], { ...facts, from, to }));
    },
    resolved: ({ from, to }, id) => onName({ from, to, id }),
    slot: () => slots++,
  };
}

function topsOf(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let child = node.firstChild; child !== null; child = child.nextSibling)
    if (!/Comment$/.test(child.name)) found.push(child);
  return found;
}

/** Built-ins the grammar knows by itself; named as variables too they would lose their own nodes. */
const grammarNames = new Set(['date', 'time', 'date and time', 'duration', 'years and months duration']);

/** One configured parser per scope: 0.17 ms a parse with 300 names, 0.76 ms when configured anew each time. */
const parsers: Readonly<Record<Grammar['top'], (scope: Scope) => typeof parser>> = {
  Expression: oncePer((scope) => configured('Expression', scope, functions)),
  // What stands in `not( )` are tests, and were one call of a function if it were known as one.
  UnaryTests: oncePer((scope) =>
    configured('UnaryTests', scope, ['?', ...functions.filter((name) => name !== 'not')]),
  ),
};

const functions = [...builtins.keys()].filter((name) => !grammarNames.has(name));

const configured = (top: Grammar['top'], scope: Scope, names: readonly string[]): typeof parser =>
  parser.configure({
    top,
    contextTracker: trackVariables(
      Object.fromEntries([...scope.keys(), ...names].map((name) => [name, null])),
    ),
  });
