import { within, type InnerName, type Reading, type SyntaxNode } from '../read';
import type { Expression, Iteration } from '../tree';
import { DATE, NUMBER, TEXT, YES_NO, elementOf, listOf, typeName, type Type } from '../type';
import { parts, spanOf, textOf, typed, typedAs } from './typed';

/** The loops of `for`, `some` and `every`: each may use the names of those before it. */
function iterations(node: SyntaxNode, reading: Reading): { over: Iteration[]; inner: Reading } | null {
  const list = node.getChild('InExpressions');
  const over: Iteration[] = [];
  let inner = reading;
  for (const part of list === null ? [] : parts(list)) {
    const [nameNode, context] = parts(part);
    if (nameNode === undefined || context === undefined)
      return (reading.report('expression-broken', part), null);
    const name = textOf(nameNode, reading.text).replace(/\s+/g, ' ');
    if (isTaken(name, inner)) return (reading.report('name-twice', nameNode, { name }), null);
    const source = sourceOf(context, inner);
    const element = source && elementOf(source.type);
    if (source === null || element === null) return null;
    const local = { name, slot: reading.slot() };
    over.push({ ...local, in: source });
    inner = within(inner, { local, type: element });
  }
  return over.length === 0 ? (reading.report('expression-broken', node), null) : { over, inner };
}

/** A loop's name that hides an answer would read as that answer to whoever comes next. */
const isTaken = (name: string, { scope, inner }: Reading): boolean =>
  scope.has(name) || name === 'item' || name === 'partial' || inner.some(({ local }) => local.name === name);

function sourceOf(context: SyntaxNode, reading: Reading): Expression | null {
  const [first, second] = parts(context);
  if (second !== undefined) {
    const [low, high] = [typedAs([NUMBER], first, reading), typedAs([NUMBER], second, reading)];
    return low && high && { op: 'series', low, high, type: listOf(NUMBER), span: spanOf(context) };
  }
  const source = typed(first ?? null, reading);
  if (source === null || elementOf(source.type) !== null) return source;
  return (reading.report('not-a-list', source.span, { given: typeName(source.type) }), null);
}

export function quantifiedNode(node: SyntaxNode, reading: Reading): Expression | null {
  const found = iterations(node, reading);
  const bodyNode = parts(node).at(-1);
  const body = found && typedAs([YES_NO], bodyNode, found.inner);
  const op = node.getChild('some') === null ? 'every' : 'some';
  return found && body && { op, over: found.over, body, type: YES_NO, span: spanOf(node) };
}

export function forNode(node: SyntaxNode, reading: Reading): Expression | null {
  const found = iterations(node, reading);
  const bodyNode = parts(node).at(-1);
  if (found === null || bodyNode === undefined) return null;
  const usesPartial = /\bpartial\b/.test(textOf(bodyNode, reading.text));
  if (!usesPartial) {
    const body = typed(bodyNode, found.inner);
    return (
      body && {
        op: 'for',
        over: found.over,
        partial: null,
        body,
        type: listOf(body.type),
        span: spanOf(node),
      }
    );
  }
  const partial = { name: 'partial', slot: reading.slot() };
  const body = bodyWithPartial(bodyNode, found.inner, (type) => ({ local: partial, type: listOf(type) }));
  return body && { op: 'for', over: found.over, partial, body, type: listOf(body.type), span: spanOf(node) };
}

/** What `partial` holds is what the body gives, so each type is tried in turn until both agree; the first try's issues count. */
function bodyWithPartial(
  node: SyntaxNode,
  reading: Reading,
  partial: (type: Type) => InnerName,
): Expression | null {
  for (const type of [NUMBER, TEXT, DATE, YES_NO]) {
    let sound = true;
    const quiet = { ...within(reading, partial(type)), report: () => void (sound = false) };
    const body = typed(node, quiet);
    if (body !== null && sound && body.type.t === type.t) return body;
  }
  const body = typed(node, within(reading, partial(NUMBER)));
  if (body !== null)
    reading.report('wrong-type', body.span, { given: typeName(body.type), wanted: 'number' });
  return null;
}
