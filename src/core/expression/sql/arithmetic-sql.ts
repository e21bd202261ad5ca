import { DIGITS } from '../number';
import type { Expression, OfOp } from '../tree';
import type { Type } from '../type';
import { sql, value, words, type SqlFragment } from './fragment';
import { fitsDigits } from './size';
import { numberSize, sqlTypeOf, write, type Writing } from './writing';

/**
 * PostgreSQL adds, takes and multiplies exactly, and we keep 34 digits: where more could come about, `slate.digits34` rounds as the
 * closures do. It divides to some sixteen digits, so quotients always go through `slate.divided`.
 */
export function arithmeticSql(tree: OfOp<'arithmetic'>, writing: Writing): SqlFragment {
  const [l, r] = [tree.left.type.t, tree.right.type.t];
  if (l === 'null' || r === 'null') return value(null, sqlTypeOf(tree.type));
  const [left, right] = [write(tree.left, writing), write(tree.right, writing)];
  if (tree.sign === '**') return writing.cannot(tree, '**');
  if (isMoment(l) && isMoment(r)) return sql`slate.seconds_between(${left}, ${right})`;
  if (isMoment(l)) return moved(left, tree.sign === '-' ? sql`(- ${right})` : right, tree.right.type);
  if (isMoment(r)) return moved(right, left, tree.left.type);
  if (tree.type.t === 'text') return sql`(${left} || ${right})`;
  const exact =
    tree.sign === '/'
      ? sql`slate.divided(${left}, ${right})`
      : rounded(sql`(${left} ${words(tree.sign)} ${right})`, tree, writing);
  if (tree.type.t === 'days') return sql`slate.as_seconds(${exact})`;
  return tree.type.t === 'months' ? sql`slate.as_months(${exact})` : exact;
}

const isMoment = (t: Type['t']): boolean => t === 'date' || t === 'time' || t === 'date-time';

function rounded(exact: SqlFragment, tree: OfOp<'arithmetic'>, writing: Writing): SqlFragment {
  if (tree.type.t !== 'number') return sql`slate.digits34(${exact})`;
  return fitsDigits(numberSize(tree, writing))
    ? exact
    : (shortProduct(exact, tree, writing) ?? sql`slate.digits34(${exact})`);
}

/**
 * Columns with more than two decimals may give more than 34 digits and nearly never do. Where both sides of a
 * product are columns, looking at them is cheaper than looking at what comes of them: 1.3 times the bare
 * product over a million rows, where looking at the product takes 1.9 times.
 */
function shortProduct(
  exact: SqlFragment,
  { sign, left, right }: OfOp<'arithmetic'>,
  writing: Writing,
): SqlFragment | null {
  const [a, b] = [numberSize(left, writing), numberSize(right, writing)];
  if (sign !== '*' || a === null || b === null || !isColumn(left) || !isColumn(right)) return null;
  const digits = Math.floor((DIGITS - a.decimals - b.decimals) / 2);
  const short = (side: Expression) =>
    sql`${write(side, writing)} BETWEEN ${words(`-1e${digits}`)} AND ${words(`1e${digits}`)}`;
  return sql`(CASE WHEN ${short(left)} AND ${short(right)} THEN ${exact} ELSE slate.cut_to_34(${exact}) END)`;
}

const isColumn = ({ op }: Expression): boolean => op === 'name' || op === 'field';

const moved = (moment: SqlFragment, by: SqlFragment, type: Type): SqlFragment =>
  type.t === 'months' ? sql`slate.months_on(${moment}, ${by})` : sql`slate.seconds_on(${moment}, ${by})`;

/** Parts of a day and of a time by `EXTRACT`; of a duration by whole division, cut towards zero. */
export function partSql({ of, part }: OfOp<'part'>, from: SqlFragment): SqlFragment {
  if (of.type.t === 'months') return part === 'years' ? sql`div(${from}, 12)` : sql`mod(${from}, 12)`;
  if (of.type.t === 'days') {
    switch (part) {
      case 'days':
        return sql`div(${from}, 86400)`;
      case 'hours':
        return sql`div(mod(${from}, 86400), 3600)`;
      case 'minutes':
        return sql`div(mod(${from}, 3600), 60)`;
      default:
        return sql`mod(${from}, 60)`;
    }
  }
  return part === 'second'
    ? sql`trunc(EXTRACT(SECOND FROM ${from}))`
    : sql`EXTRACT(${words(part === 'weekday' ? 'ISODOW' : part.toUpperCase())} FROM ${from})`;
}
