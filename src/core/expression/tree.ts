import { elementOf, type Type } from './type';
import type { Value } from './value';
import type { DurationPart } from './duration';
import type { MomentPart } from './moment';

/** Where a piece stands in the text, in UTF-16 units, `to` exclusive. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

interface Node {
  readonly span: Span;
  readonly type: Type;
}

export type Comparison = '=' | '!=' | '<' | '<=' | '>' | '>=';
export type Sign = '+' | '-' | '*' | '/' | '**';
export type Part = MomentPart | DurationPart;

/**
 * A name that lives only within a piece of an expression: the variable of a loop, `item`, or an entry of a context.
 * `slot` is where its value is kept while the piece is calculated.
 */
export interface Local {
  readonly name: string;
  readonly slot: number;
}

/** `for x in list`: the local, and what it goes through. */
export interface Iteration extends Local {
  readonly in: Expression;
}

/** What stands after `in`: a value to equal, a comparison, a range, or a list to be a member of. */
export type Test =
  | { readonly t: 'is'; readonly value: Expression }
  | { readonly t: 'compare'; readonly by: Comparison; readonly value: Expression }
  | { readonly t: 'within'; readonly value: Expression }
  | { readonly t: 'member'; readonly value: Expression };

export interface Entry extends Local {
  readonly value: Expression;
}

/** The typed tree: names are resolved to ids, every node knows its type and place. */
export type Expression =
  | (Node & { readonly op: 'literal'; readonly value: Value })
  | (Node & { readonly op: 'name'; readonly id: string; readonly name: string })
  | (Node & Local & { readonly op: 'local' })
  /** A column of a record, a row or a context. */
  | (Node & { readonly op: 'field'; readonly of: Expression; readonly id: string; readonly name: string })
  /** The same of every member of a list. */
  | (Node & { readonly op: 'each'; readonly of: Expression; readonly id: string; readonly name: string })
  /** A column over all rows of a repeating group. */
  | (Node & {
      readonly op: 'column';
      readonly group: string;
      readonly id: string;
      readonly groupName: string;
      readonly name: string;
    })
  | (Node & { readonly op: 'part'; readonly of: Expression; readonly part: Part })
  | (Node & {
      readonly op: 'arithmetic';
      readonly sign: Sign;
      readonly left: Expression;
      readonly right: Expression;
    })
  | (Node & { readonly op: 'negate'; readonly of: Expression })
  | (Node & {
      readonly op: 'compare';
      readonly by: Comparison;
      readonly left: Expression;
      readonly right: Expression;
    })
  | (Node & {
      readonly op: 'between';
      readonly of: Expression;
      readonly low: Expression;
      readonly high: Expression;
    })
  | (Node & { readonly op: 'in'; readonly of: Expression; readonly tests: readonly Test[] })
  | (Node & { readonly op: 'and' | 'or'; readonly left: Expression; readonly right: Expression })
  | (Node & {
      readonly op: 'if';
      readonly when: Expression;
      readonly then: Expression;
      readonly otherwise: Expression;
    })
  | (Node & { readonly op: 'list'; readonly items: readonly Expression[] })
  | (Node & { readonly op: 'context'; readonly entries: readonly Entry[] })
  | (Node & {
      readonly op: 'range';
      readonly low: Expression;
      readonly high: Expression;
      readonly lowIn: boolean;
      readonly highIn: boolean;
    })
  /** The whole numbers from one to another, only after the `in` of a loop. */
  | (Node & { readonly op: 'series'; readonly low: Expression; readonly high: Expression })
  | (Node & { readonly op: 'index'; readonly of: Expression; readonly at: Expression })
  | (Node & {
      readonly op: 'filter';
      readonly of: Expression;
      readonly item: Local;
      readonly where: Expression;
    })
  | (Node & {
      readonly op: 'for';
      readonly over: readonly Iteration[];
      readonly partial: Local | null;
      readonly body: Expression;
    })
  | (Node & { readonly op: 'some' | 'every'; readonly over: readonly Iteration[]; readonly body: Expression })
  | (Node & { readonly op: 'instance'; readonly of: Expression; readonly wanted: Type })
  | (Node & { readonly op: 'call'; readonly name: string; readonly args: readonly Expression[] });

export type Op = Expression['op'];
export type OfOp<K extends Op> = Extract<Expression, { readonly op: K }>;

export function children(tree: Expression): readonly Expression[] {
  switch (tree.op) {
    case 'literal':
    case 'name':
    case 'local':
    case 'column':
      return [];
    case 'field':
    case 'each':
    case 'part':
    case 'negate':
    case 'instance':
      return [tree.of];
    case 'arithmetic':
    case 'compare':
    case 'and':
    case 'or':
      return [tree.left, tree.right];
    case 'between':
      return [tree.of, tree.low, tree.high];
    case 'range':
    case 'series':
      return [tree.low, tree.high];
    case 'in':
      return [tree.of, ...tree.tests.map(({ value }) => value)];
    case 'if':
      return [tree.when, tree.then, tree.otherwise];
    case 'list':
      return tree.items;
    case 'context':
      return tree.entries.map(({ value }) => value);
    case 'index':
      return [tree.of, tree.at];
    case 'filter':
      return [tree.of, tree.where];
    case 'for':
    case 'some':
    case 'every':
      return [...tree.over.map((one) => one.in), tree.body];
    case 'call':
      return tree.args;
  }
}

/** Every node, outer ones first. */
export function* nodesOf(tree: Expression): Generator<Expression> {
  yield tree;
  for (const child of children(tree)) yield* nodesOf(child);
}

/** The group whose rows a node takes a column from, if it does. */
function groupRead(tree: Expression): { group: string; id: string } | null {
  if (tree.op === 'column') return tree;
  if (tree.op !== 'field' && tree.op !== 'each') return null;
  const of = elementOf(tree.of.type) ?? tree.of.type;
  return of.t === 'context' && of.group !== undefined ? { group: of.group, id: tree.id } : null;
}

/** The ids of answers and row columns an expression reads; fields of a looked-up record count as their lookup. */
export function dependencies(tree: Expression): Set<string> {
  const found = new Set<string>();
  for (const node of nodesOf(tree)) {
    if (node.op === 'name') found.add(node.id);
    const row = groupRead(node);
    if (row !== null) found.add(row.id);
  }
  return found;
}

/** The columns of looked-up tables an expression reads: `[table id, column id]` pairs. */
export function columnsRead(tree: Expression): [string, string][] {
  return [...nodesOf(tree)].flatMap((node): [string, string][] => {
    if (node.op !== 'field' && node.op !== 'each') return [];
    const of = elementOf(node.of.type) ?? node.of.type;
    return of.t === 'record' ? [[of.table, node.id]] : [];
  });
}

/** Whether it reads a column over all rows, or the rows themselves. */
export function readsColumns(tree: Expression): boolean {
  return [...nodesOf(tree)].some(
    (node) => node.op === 'column' || (node.op === 'name' && node.type.t === 'rows'),
  );
}
