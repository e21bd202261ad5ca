import { nearest } from '../../kernel/nearest';
import type { Builtin, Way } from '../functions/builtin';
import type { Reading, SyntaxNode } from '../read';
import type { Expression } from '../tree';
import { elementOf, typeName } from '../type';
import { parts, spanOf, textOf, typed } from './typed';

export function callNode(node: SyntaxNode, reading: Reading): Expression | null {
  const head = node.firstChild;
  const name = head === null ? '' : textOf(head, reading.text).replace(/\s+/g, ' ');
  const builtin = reading.builtins.get(name);
  if (builtin === undefined) {
    reading.report('unknown-function', head ?? node, { name, meant: nearest(name, reading.builtins.keys()) });
    return null;
  }
  if (node.getChild('NamedParameters') !== null)
    return (reading.report('expression-unsupported', node, { text: textOf(node, reading.text) }), null);
  const given = node.getChild('PositionalParameters');
  const args = (given === null ? [] : parts(given)).map((part) => typed(part, reading));
  if (!args.every((arg) => arg !== null)) return null;
  const way = wayFor(builtin, args, node, reading);
  if (way === null) return null;
  const types = args.map((arg) => arg.type);
  return {
    op: 'call',
    name,
    args,
    type: typeof way.gives === 'function' ? way.gives(types) : way.gives,
    span: spanOf(node),
  };
}

const least = ({ takes, optional = 0 }: Way): number => takes.length - optional;
const most = ({ takes, rest }: Way): number => (rest === true ? Infinity : takes.length);

/** The first way of calling that takes these arguments; the nearest one's objection is reported when there is none. */
function wayFor(
  builtin: Builtin,
  args: readonly Expression[],
  node: SyntaxNode,
  reading: Reading,
): Way | null {
  const counted = builtin.ways.filter((way) => args.length >= least(way) && args.length <= most(way));
  const found = counted.find((way) => firstMisfit(way, args) === -1);
  if (found !== undefined) return found;
  if (counted.length === 0) {
    const bounds = {
      least: Math.min(...builtin.ways.map(least)),
      most: Math.min(255, Math.max(...builtin.ways.map(most))),
    };
    reading.report('argument-count', node, { name: builtin.name, ...bounds, given: args.length });
    return null;
  }
  reportMisfit(counted, args, reading);
  return null;
}

const wantAt = ({ takes }: Way, i: number) => takes[Math.min(i, takes.length - 1)];
const firstMisfit = (way: Way, args: readonly Expression[]): number =>
  args.findIndex(
    (arg, i) =>
      wantAt(way, i)?.takes(
        arg.type,
        args.map(({ type }) => type),
      ) !== true,
  );

function reportMisfit(ways: readonly Way[], args: readonly Expression[], reading: Reading): void {
  const [way] = [...ways].sort((a, b) => firstMisfit(b, args) - firstMisfit(a, args));
  const i = way === undefined ? 0 : firstMisfit(way, args);
  const arg = args[i];
  if (way === undefined || arg === undefined) return;
  const wanted = [
    ...new Set(
      ways.filter((one) => firstMisfit(one, args) === i).flatMap((one) => wantAt(one, i)?.words ?? []),
    ),
  ];
  const element = elementOf(arg.type);
  const one =
    element !== null &&
    ways.some(
      (each) =>
        wantAt(each, i)?.takes(
          element,
          args.map(({ type }) => type),
        ) === true,
    ) &&
    !wanted.some((word) => word.startsWith('list'));
  reading.report(one ? 'list-where-one' : 'wrong-type', arg.span, {
    given: typeName(arg.type),
    wanted: wanted.join(' or '),
  });
}
