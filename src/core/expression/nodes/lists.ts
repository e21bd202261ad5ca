import { within, type Reading, type SyntaxNode } from '../read';
import type { Entry, Expression } from '../tree';
import {
  EMPTY,
  NUMBER,
  YES_NO,
  elementOf,
  fits,
  listOf,
  rangeOf,
  together,
  typeName,
  type Field,
} from '../type';
import { orderedTypes } from './comparison';
import { mismatch, parts, spanOf, textOf, typed, typedAs } from './typed';

export function listNode(node: SyntaxNode, reading: Reading): Expression | null {
  const items = parts(node).map((part) => typed(part, reading));
  if (!items.every((item) => item !== null)) return null;
  const of = items.find((item) => item.type.t !== 'null')?.type ?? EMPTY;
  if (together(items.map(({ type }) => type)) !== null)
    return { op: 'list', items, type: listOf(of), span: spanOf(node) };
  const odd = items.find((item) => !fits(item.type, of));
  return odd === undefined ? null : mismatch(odd, [of], reading);
}

/** Each entry may use those before it. */
export function contextNode(node: SyntaxNode, reading: Reading): Expression | null {
  const entries: Entry[] = [];
  const fields = new Map<string, Field>();
  let inner = reading;
  for (const part of parts(node)) {
    const [key, valueNode] = parts(part);
    const value = typed(valueNode ?? null, inner);
    if (key === undefined || value === null) return null;
    const name = textOf(key, reading.text).replace(/^"|"$/g, '').replace(/\s+/g, ' ');
    if (fields.has(name)) return (reading.report('name-twice', key, { name }), null);
    const local = { name, slot: reading.slot() };
    entries.push({ ...local, value });
    fields.set(name, { id: name, type: value.type });
    inner = within(inner, { local, type: value.type });
  }
  return { op: 'context', entries, type: { t: 'context', fields }, span: spanOf(node) };
}

/** `[1..5]`, `(1..5]`, `]1..5]`: a bracket that turns away leaves its end out. */
export function rangeNode(node: SyntaxNode, reading: Reading): Expression | null {
  const interval = node.getChild('Interval');
  if (interval === null)
    return (reading.report('expression-unsupported', node, { text: textOf(node, reading.text) }), null);
  const [first, second] = parts(interval);
  const low = typedAs(orderedTypes, first, reading);
  const high = low && typedAs(low.type.t === 'null' ? orderedTypes : [low.type], second, reading);
  if (low === null || high === null) return null;
  const [opens, closes] = [reading.text.charAt(interval.from), reading.text.charAt(interval.to - 1)];
  const of = low.type.t === 'null' ? high.type : low.type;
  return {
    op: 'range',
    low,
    high,
    lowIn: opens === '[',
    highIn: closes === ']',
    type: rangeOf(of),
    span: spanOf(node),
  };
}

/** `list[2]` takes one member, `list[condition]` those for which it holds; inside, `item` is the member and its columns are names. */
export function filterNode(node: SyntaxNode, reading: Reading): Expression | null {
  const [first, second] = parts(node);
  const of = typed(first ?? null, reading);
  if (of === null) return null;
  const element = elementOf(of.type);
  if (element === null) return (reading.report('not-a-list', of.span, { given: typeName(of.type) }), null);
  const item = { name: 'item', slot: reading.slot() };
  const inside = typed(second ?? null, within(reading, { local: item, type: element }));
  if (inside === null) return null;
  if (inside.type.t === 'number') return { op: 'index', of, at: inside, type: element, span: spanOf(node) };
  if (fits(inside.type, YES_NO))
    return { op: 'filter', of, item, where: inside, type: listOf(element), span: spanOf(node) };
  return mismatch(inside, [NUMBER, YES_NO], reading);
}
