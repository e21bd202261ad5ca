import { DIGITS } from '../number';
import type { Expression } from '../tree';
import { isBig } from '../value';
import type { NumberSize } from './names';

/** How large a number can get at most; null when that is not known. */
export type SizeOf = (tree: Expression) => NumberSize | null;

/** Whether PostgreSQL's exact result needs no rounding to be ours. */
export const fitsDigits = (size: NumberSize | null): boolean =>
  size !== null && size.whole + size.decimals <= DIGITS;

export function sizeOf(tree: Expression, columns: SizeOf): NumberSize | null {
  const of = (one: Expression) => sizeOf(one, columns);
  switch (tree.op) {
    case 'literal':
      return isBig(tree.value)
        ? {
            whole: Math.max(tree.value.e + 1, 0),
            decimals: Math.max(0, tree.value.c.length - tree.value.e - 1),
          }
        : null;
    case 'negate':
      return of(tree.of);
    case 'if':
      return larger(of(tree.then), of(tree.otherwise), 0);
    case 'arithmetic': {
      const [left, right] = [of(tree.left), of(tree.right)];
      if (tree.sign === '+' || tree.sign === '-') return larger(left, right, 1);
      return tree.sign === '*' && left && right
        ? { whole: left.whole + right.whole, decimals: left.decimals + right.decimals }
        : null;
    }
    case 'part':
      return { whole: 6, decimals: 0 };
    case 'call':
      return callSize(tree.name, tree.args, of);
    default:
      return columns(tree);
  }
}

const larger = (a: NumberSize | null, b: NumberSize | null, more: number): NumberSize | null =>
  a && b ? { whole: Math.max(a.whole, b.whole) + more, decimals: Math.max(a.decimals, b.decimals) } : null;

function callSize(name: string, [first]: readonly Expression[], of: SizeOf): NumberSize | null {
  if (name === 'count' || name === 'string length') return { whole: 10, decimals: 0 };
  return name === 'abs' && first !== undefined ? of(first) : null;
}
