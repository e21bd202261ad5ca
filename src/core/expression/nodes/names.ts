import { nearest } from '../../kernel/nearest';
import type { InnerName, Reading, SyntaxNode } from '../read';
import type { Expression, Part } from '../tree';
import { elementOf, fieldsOfType, listOf, NUMBER, typeName, type Field, type Type } from '../type';
import { spanOf, textOf, typed } from './typed';

/** The innermost name wins: a loop's own, then `item` and what it holds, then the answers. */
export function nameNode(node: SyntaxNode, reading: Reading): Expression | null {
  const name = textOf(node, reading.text).replace(/\s+/g, ' ');
  const span = spanOf(node);
  if (name === '?' && reading.tested !== undefined) return reading.tested;
  for (const inner of [...reading.inner].reverse()) {
    if (inner.local.name === name) return { op: 'local', ...inner.local, type: inner.type, span };
    const field = inner.local.name === 'item' ? fieldsOfType(inner.type)?.get(name) : undefined;
    if (field !== undefined) return (reading.resolved(span, field.id), itemField(inner, name, field, span));
  }
  const field = reading.scope.get(name);
  if (field === undefined)
    return (reportUnknown('unknown-name', name, namesOf(reading), node, reading), null);
  reading.resolved(span, field.id);
  return { op: 'name', id: field.id, name, type: field.type, span };
}

function itemField(
  { local, type }: InnerName,
  name: string,
  field: Field,
  span: { from: number; to: number },
): Expression {
  return {
    op: 'field',
    of: { op: 'local', ...local, type, span },
    id: field.id,
    name,
    type: field.type,
    span,
  };
}

function* namesOf({ scope, inner }: Reading): Generator<string> {
  for (const { local, type } of inner) {
    yield local.name;
    if (local.name === 'item') yield* fieldsOfType(type)?.keys() ?? [];
  }
  yield* scope.keys();
}

/**
 * A dot after a record or a context names what it holds; after a list or repeating rows, the same of every
 * member; after a date or a duration, a part of it.
 */
export function pathNode(node: SyntaxNode, reading: Reading): Expression | null {
  const of = typed(node.firstChild, reading);
  const last = node.lastChild;
  if (of === null || last === null) return null;
  const name = textOf(last, reading.text).replace(/\s+/g, ' ');
  const span = spanOf(node);
  const part = partsOf[of.type.t];
  if (part !== undefined)
    return isPart(name, part)
      ? { op: 'part', of, part: name, type: NUMBER, span }
      : (reportUnknown('unknown-column', name, part, last, reading), null);
  const element = elementOf(of.type);
  const fields = fieldsOfType(element ?? of.type);
  if (fields === null) return (reading.report('not-a-path', node, { given: typeName(of.type), name }), null);
  const field = fields.get(name);
  if (field === undefined) return (reportUnknown('unknown-column', name, fields.keys(), last, reading), null);
  reading.resolved(last, field.id);
  if (element === null) return { op: 'field', of, id: field.id, name, type: field.type, span };
  const type = listOf(field.type);
  if (of.op === 'name' && of.type.t === 'rows')
    return { op: 'column', group: of.type.group, groupName: of.name, id: field.id, name, type, span };
  return { op: 'each', of, id: field.id, name, type, span };
}

/** DMN 1.5 tables 57 and 58: what may be taken from a date, a time or a duration. */
const partsOf: Readonly<Partial<Record<Type['t'], readonly Part[]>>> = {
  date: ['year', 'month', 'day', 'weekday'],
  time: ['hour', 'minute', 'second'],
  'date-time': ['year', 'month', 'day', 'weekday', 'hour', 'minute', 'second'],
  days: ['days', 'hours', 'minutes', 'seconds'],
  months: ['years', 'months'],
};
const isPart = (name: string, known: readonly Part[]): name is Part => known.some((one) => one === name);

function reportUnknown(
  code: 'unknown-name' | 'unknown-column',
  name: string,
  known: Iterable<string>,
  node: SyntaxNode,
  reading: Reading,
): void {
  reading.report(code, node, { name, meant: nearest(name, known) });
}
