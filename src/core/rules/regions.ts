import type Big from 'big.js';
import { compile, type Source } from '../expression/compile';
import { addDays } from '../expression/moment';
import { numberText } from '../expression/number';
import { quotedText } from '../expression/nodes/literals';
import { readTests } from '../expression/read';
import { nodesOf, type Expression, type Test } from '../expression/tree';
import type { Scope, Type } from '../expression/type';
import { oncePer } from '../kernel/once-per';
import { isBig, isList, order, Range, same, type Value } from '../expression/value';
import Decimal from 'big.js';

/** What a condition can be, as far as it is known. */
export interface Domain {
  readonly type: Type;
  /** All it can be besides empty. Left out, anything of its type. */
  readonly values?: readonly string[];
  /** Numbers that differ at all differ by so much. Left out, by anything. */
  readonly step?: Big;
  readonly mayBeEmpty: boolean;
}

/** A part of what a condition can be: one value, what lies between two (null without bound), or whatever is none of some texts. */
export type Region =
  | { readonly t: 'value'; readonly value: Value }
  | { readonly t: 'between'; readonly low: Value; readonly high: Value }
  | { readonly t: 'other'; readonly than: readonly string[] };

export type Piece =
  | { readonly t: 'value'; readonly value: Value }
  | {
      readonly t: 'span';
      readonly low: Value;
      readonly high: Value;
      readonly lowIn: boolean;
      readonly highIn: boolean;
    };

/** Unary tests that can be looked through: any of some values and spans, or none of them. */
export interface Pieces {
  readonly not: boolean;
  readonly pieces: readonly Piece[];
}

const VALUE = 'value';
// Kept with what was read in it.
const scopeOf = oncePer((type: Type): Scope => new Map([[VALUE, { id: VALUE, type }]]));

/** The pieces of a test; null where it depends on more than the one value, or asks what cannot be cut into pieces. */
export function piecesOf(test: string, type: Type): Pieces | null {
  const read = readTests(test, scopeOf(type), VALUE);
  if (!read.ok) return null;
  const tree = read.value;
  if (tree.op === 'literal') return { not: true, pieces: [] };
  const [inner] = tree.op === 'call' && tree.name === 'not' ? tree.args : [];
  const of = inner ?? tree;
  if (of.op !== 'in' || of.of.op !== 'name') return null;
  const pieces = of.tests.map(pieceOf);
  return pieces.every((one) => one !== null) ? { not: inner !== undefined, pieces: pieces.flat() } : null;
}

function pieceOf(test: Test): Piece[] | null {
  const value = constant(test.value);
  if (value === undefined) return null;
  switch (test.t) {
    case 'is':
      return [{ t: 'value', value }];
    case 'member':
      return isList(value) ? value.map((one) => ({ t: 'value', value: one })) : null;
    case 'within':
      return value instanceof Range ? [{ t: 'span', ...value }] : null;
    case 'compare':
      return compared(test.by, value);
  }
}

function compared(by: string, value: Value): Piece[] | null {
  if (by === '=') return [{ t: 'value', value }];
  if (by === '!=' || value === null) return null;
  const isIn = by.endsWith('=');
  return by.startsWith('<')
    ? [{ t: 'span', low: null, lowIn: false, high: value, highIn: isIn }]
    : [{ t: 'span', low: value, lowIn: isIn, high: null, highIn: false }];
}

const constantNodes: ReadonlySet<string> = new Set(['literal', 'negate', 'range', 'list']);

/** What an expression gives that reads nothing; undefined where it reads something. */
function constant(tree: Expression): Value | undefined {
  for (const node of nodesOf(tree))
    if (!constantNodes.has(node.op) && !(node.op === 'call' && node.name === 'date')) return undefined;
  return compile(tree)(nothing);
}

const nothing = { read: () => null, column: () => [], gaveUp: () => undefined } as unknown as Source;

/** A condition cut where any of its tests has an end. In order where there is one, empty last. */
export function regionsOf({ type, values, step, mayBeEmpty }: Domain, tests: readonly Pieces[]): Region[] {
  const empty: Region[] = mayBeEmpty ? [{ t: 'value', value: null }] : [];
  const pieces = tests.flatMap((one) => one.pieces);
  if (type.t === 'yes-no')
    return [...[true, false].map((value): Region => ({ t: 'value', value })), ...empty];
  const ends = distinct(
    pieces
      .flatMap((one) => (one.t === 'value' ? [one.value] : [one.low, one.high]))
      .filter((one) => one !== null),
  );
  if (type.t === 'number' || type.t === 'date') {
    const sorted = [...ends].sort((a, b) => order(a, b) ?? 0);
    const between = (low: Value, high: Value): Region[] =>
      isNext(low, high, step) ? [] : [{ t: 'between', low, high }];
    return [
      ...between(null, sorted[0] ?? null),
      ...sorted.flatMap((value, i): Region[] => [
        { t: 'value', value },
        ...between(value, sorted[i + 1] ?? null),
      ]),
      ...empty,
    ];
  }
  const texts = [...new Set([...(values ?? []), ...ends.filter((one) => typeof one === 'string')])];
  const known = texts.map((value): Region => ({ t: 'value', value }));
  return [...known, ...(values === undefined ? [{ t: 'other' as const, than: texts }] : []), ...empty];
}

const distinct = (values: readonly Value[]): Value[] =>
  values.filter((one, i) => values.findIndex((other) => same(one, other)) === i);

/** Whether nothing lies between the two. */
function isNext(low: Value, high: Value, step: Big | undefined): boolean {
  if (typeof low === 'string' && typeof high === 'string') return addDays(low, DAY) === high;
  return step !== undefined && isBig(low) && isBig(high) && high.minus(low).lte(step);
}
const DAY = new Decimal(86_400);

/** Whether all of a region passes a test; regions are cut so that all or nothing of them does. */
export const passes = (region: Region, { not, pieces }: Pieces): boolean =>
  pieces.some((piece) => holds(region, piece)) !== not;

function holds(region: Region, piece: Piece): boolean {
  if (piece.t === 'value') return region.t === 'value' && same(region.value, piece.value);
  const { low, high, lowIn, highIn } = piece;
  if (region.t === 'other') return false;
  if (region.t === 'value') {
    if (region.value === null) return false;
    const [above, below] = [order(region.value, low) ?? 1, order(region.value, high) ?? -1];
    return (lowIn ? above >= 0 : above > 0) && (highIn ? below <= 0 : below < 0);
  }
  const reachesDown = low === null || (region.low !== null && (order(region.low, low) ?? -1) >= 0);
  const reachesUp = high === null || (region.high !== null && (order(region.high, high) ?? 1) <= 0);
  return reachesDown && reachesUp;
}

/** Some of the regions of a condition as one unary test; nothing where that is all of them. */
export function testOfRegions(some: readonly Region[], all: readonly Region[], type: Type): string {
  if (some.length === all.length) return '';
  const isEmpty = (region: Region): boolean => region.t === 'value' && region.value === null;
  const [withEmpty, filled] = [some.some(isEmpty), some.filter((one) => !isEmpty(one))];
  if (!withEmpty && filled.length === all.filter((one) => !isEmpty(one)).length) return 'not(null)';
  const other = filled.find((one) => one.t === 'other');
  if (other !== undefined) {
    const left = all.filter((one) => !some.includes(one));
    return `not(${left.map((one) => (one.t === 'value' ? feel(one.value, type) : '')).join(', ')})`;
  }
  return [...runs(filled, all, type), ...(withEmpty ? ['null'] : [])].join(', ');
}

/** Regions that touch, as one span each. */
function runs(some: readonly Region[], all: readonly Region[], type: Type): string[] {
  const isOrdered = type.t === 'number' || type.t === 'date';
  const found: Region[][] = [];
  for (const region of some) {
    const last = found.at(-1);
    const before = last?.at(-1);
    const touches = isOrdered && before !== undefined && all.indexOf(region) === all.indexOf(before) + 1;
    if (touches && last !== undefined) last.push(region);
    else found.push([region]);
  }
  return found.map((run) => spanText(run, type));
}

function spanText(run: readonly Region[], type: Type): string {
  const end = (value: Value): string => feel(value, type);
  const [first, last] = [run[0], run.at(-1)];
  if (run.length === 1 && first?.t === 'value') return end(first.value);
  const [low, lowIn] =
    first?.t === 'between' ? [first.low, false] : [first?.t === 'value' ? first.value : null, true];
  const [high, highIn] =
    last?.t === 'between' ? [last.high, false] : [last?.t === 'value' ? last.value : null, true];
  if (low === null) return `${highIn ? '<=' : '<'} ${end(high)}`;
  if (high === null) return `${lowIn ? '>=' : '>'} ${end(low)}`;
  return `${lowIn ? '[' : '('}${end(low)}..${end(high)}${highIn ? ']' : ')'}`;
}

function feel(value: Value, type: Type): string {
  if (isBig(value)) return numberText(value);
  if (typeof value === 'boolean') return String(value);
  if (typeof value === 'string') return type.t === 'date' ? `date("${value}")` : quotedText(value);
  return 'null';
}
