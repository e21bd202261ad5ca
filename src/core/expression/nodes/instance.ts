import type { Reading, SyntaxNode } from '../read';
import type { Expression } from '../tree';
import { YES_NO } from '../type';
import { writtenType } from '../type-text';
import { parts, spanOf, textOf, typed } from './typed';

/** Whether a value is there and of a type. Types are known when the rule is written, so only emptiness is left to find out. */
export function instanceNode(node: SyntaxNode, reading: Reading): Expression | null {
  const [first, second] = parts(node);
  const of = typed(first ?? null, reading);
  if (of === null || second === undefined) return null;
  const wanted = writtenType(textOf(second, reading.text));
  if (wanted === null)
    return (reading.report('expression-unsupported', second, { text: textOf(second, reading.text) }), null);
  return { op: 'instance', of, wanted, type: YES_NO, span: spanOf(node) };
}
