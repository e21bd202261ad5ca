import { nearest } from '../../kernel/nearest';
import type { Builtin } from '../functions/builtin';
import type { Reading, SyntaxNode } from '../read';
import type { Expression } from '../tree';
import { fits, type Type } from '../type';
import { parts, textOf, typed } from './typed';

export function callNode(node: SyntaxNode, reading: Reading): Expression | null {
  const name = node.firstChild === null ? '' : textOf(node.firstChild, reading.text).replace(/\s+/g, ' ');
  const builtin = reading.builtins.get(name);
  if (builtin === undefined) {
    reading.report('unknown-function', node.firstChild ?? node, { name, meant: nearest(name, reading.builtins.keys()) });
    return null;
  }
  const given = node.getChild('PositionalParameters');
  const args = (given === null ? [] : parts(given)).map((part) => typed(part, reading));
  if (!args.every((arg) => arg !== null)) return null;
  if (!argumentsFit(builtin, args, node, reading)) return null;
  const types = args.map((arg) => arg.type);
  return { op: 'call', name, args, type: typeof builtin.gives === 'function' ? builtin.gives(types) : builtin.gives, span: node };
}

function argumentsFit(builtin: Builtin, args: readonly Expression[], node: SyntaxNode, reading: Reading): boolean {
  if (builtin.listOf !== undefined) return listFits(builtin.listOf, args, node, reading);
  const most = builtin.takes.length;
  const least = most - (builtin.optional ?? 0);
  if (args.length < least || args.length > most) {
    reading.report('argument-count', node, { name: builtin.name, least, most, given: args.length });
    return false;
  }
  return args.every((arg, i) => fitsOrReports(arg, [builtin.takes[i] as Type], reading));
}

/** Either one list (or the rows themselves, to be counted), or its members one by one. */
function listFits(of: readonly Type['t'][], args: readonly Expression[], node: SyntaxNode, reading: Reading): boolean {
  const [first] = args;
  if (first === undefined) return (reading.report('argument-count', node, { name: 'list', least: 1, most: 255, given: 0 }), false);
  const members = args.length === 1 && first.type.t === 'list' ? [first.type.of] : args.map((arg) => arg.type);
  const wrong = members.find((type) => type.t !== 'null' && !of.includes(type.t));
  if (wrong === undefined) return true;
  reading.report('wrong-type', first.span, { given: wrong.t, wanted: of.filter((t) => t !== 'null').join(' or ') });
  return false;
}

function fitsOrReports(arg: Expression, wanted: readonly Type[], reading: Reading): boolean {
  if (wanted.some((type) => fits(arg.type, type))) return true;
  reading.report('wrong-type', arg.span, { given: arg.type.t, wanted: wanted.map((type) => type.t).join(' or ') });
  return false;
}
