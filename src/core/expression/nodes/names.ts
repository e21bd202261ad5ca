import { nearest } from '../../kernel/nearest';
import type { Reading, SyntaxNode } from '../read';
import type { Expression } from '../tree';
import { listOf, type Field } from '../type';
import { textOf, typed } from './typed';

export function nameNode(node: SyntaxNode, reading: Reading): Expression | null {
  const name = textOf(node, reading.text);
  const field = reading.scope.get(name);
  if (field === undefined) return (reportUnknown('unknown-name', name, reading.scope, node, reading), null);
  return { op: 'name', id: field.id, type: field.type, span: node };
}

/** A dot after a looked-up record names one of its columns; after repeating rows, the list of that column's answers. */
export function pathNode(node: SyntaxNode, reading: Reading): Expression | null {
  const of = typed(node.firstChild, reading);
  const last = node.lastChild;
  if (of === null || last === null) return null;
  const name = textOf(last, reading.text);
  if (of.type.t === 'record') {
    const field = of.type.fields.get(name);
    if (field === undefined) return (reportUnknown('unknown-column', name, of.type.fields, last, reading), null);
    return { op: 'field', of, id: field.id, type: field.type, span: node };
  }
  if (of.type.t === 'rows') {
    const field = of.type.columns.get(name);
    if (field === undefined) return (reportUnknown('unknown-column', name, of.type.columns, last, reading), null);
    return { op: 'column', group: of.type.group, id: field.id, type: listOf(field.type), span: node };
  }
  reading.report('not-a-path', node, { given: of.type.t, name });
  return null;
}

function reportUnknown(code: 'unknown-name' | 'unknown-column', name: string, known: ReadonlyMap<string, Field>, node: SyntaxNode, reading: Reading): void {
  reading.report(code, node, { name, meant: nearest(name, known.keys()) });
}
