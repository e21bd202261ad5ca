import type Big from 'big.js';
import type { Type } from './type';

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
export type Sign = '+' | '-' | '*' | '/';

/** The typed tree: names are resolved to ids, every node knows its type and place. */
export type Expression =
  | (Node & { readonly op: 'literal'; readonly value: Big | string | boolean | null })
  | (Node & { readonly op: 'name'; readonly id: string })
  | (Node & { readonly op: 'field'; readonly of: Expression; readonly id: string })
  | (Node & { readonly op: 'column'; readonly group: string; readonly id: string })
  | (Node & { readonly op: 'arithmetic'; readonly sign: Sign; readonly left: Expression; readonly right: Expression })
  | (Node & { readonly op: 'negate'; readonly of: Expression })
  | (Node & { readonly op: 'compare'; readonly by: Comparison; readonly left: Expression; readonly right: Expression })
  | (Node & { readonly op: 'between'; readonly of: Expression; readonly low: Expression; readonly high: Expression })
  | (Node & { readonly op: 'one-of'; readonly of: Expression; readonly list: readonly Expression[] })
  | (Node & { readonly op: 'and' | 'or'; readonly left: Expression; readonly right: Expression })
  | (Node & { readonly op: 'if'; readonly when: Expression; readonly then: Expression; readonly otherwise: Expression })
  | (Node & { readonly op: 'list'; readonly items: readonly Expression[] })
  | (Node & { readonly op: 'call'; readonly name: string; readonly args: readonly Expression[] });

export function children(tree: Expression): readonly Expression[] {
  switch (tree.op) {
    case 'literal': case 'name': case 'column': return [];
    case 'field': case 'negate': return [tree.of];
    case 'arithmetic': case 'compare': case 'and': case 'or': return [tree.left, tree.right];
    case 'between': return [tree.of, tree.low, tree.high];
    case 'one-of': return [tree.of, ...tree.list];
    case 'if': return [tree.when, tree.then, tree.otherwise];
    case 'list': return tree.items;
    case 'call': return tree.args;
  }
}

/** The ids of answers and row columns an expression reads; fields of a looked-up record count as their lookup. */
export function dependencies(tree: Expression, into: Set<string> = new Set()): Set<string> {
  if (tree.op === 'name' || tree.op === 'column') into.add(tree.id);
  for (const child of children(tree)) dependencies(child, into);
  return into;
}

/** The columns of looked-up tables an expression reads: `[table id, column id]` pairs. */
export function columnsRead(tree: Expression, into: [string, string][] = []): [string, string][] {
  if (tree.op === 'field' && tree.of.type.t === 'record') into.push([tree.of.type.table, tree.id]);
  for (const child of children(tree)) columnsRead(child, into);
  return into;
}

/** Whether it reads a column over all rows, or the rows themselves. */
export function readsColumns(tree: Expression): boolean {
  return tree.op === 'column' || (tree.op === 'name' && tree.type.t === 'rows') || children(tree).some(readsColumns);
}
