import { issue, type Issue } from '../../kernel/issue';
import { fail, ok, type Result } from '../../kernel/result';
import type { Duration } from '../duration';
import { builtins } from '../functions/list';
import { numberText } from '../number';
import type { Comparison, Expression, OfOp, Test } from '../tree';
import { fits, type Type } from '../type';
import { isBig, type Value } from '../value';
import { aggregateSql } from './aggregates';
import { identifier, joined, sql, value, words, type SqlFragment } from './fragment';
import { arithmeticSql, partSql } from './arithmetic-sql';
import type { SqlNames, SqlTable } from './names';
import { collation, sqlTypeOf, write, type Writing } from './writing';

/** An expression as SQL: what it is worth for one row, and the joins that bring looked-up records and child rows to it. */
export interface SqlExpression {
  readonly expression: SqlFragment;
  /** To stand after `FROM table row`, in this order. */
  readonly joins: SqlFragment;
}

/** Turns a typed expression into SQL that is worth exactly what its closure is worth; issues name what SQL cannot say. */
export function toSql(tree: Expression, names: SqlNames): Result<SqlExpression, Issue[]> {
  const issues: Issue[] = [];
  let aliases = 0;
  const writing: Writing = {
    names,
    locals: new Map(),
    joins: [],
    aggregates: new Map(),
    records: new Map(),
    translate: written,
    cannot: ({ span, type }, what) => (
      issues.push(issue('not-in-sql', [], { what, from: span.from, to: span.to })),
      value(null, sqlTypeOf(type))
    ),
    alias: () => `x${++aliases}`,
  };
  const expression = write(tree, writing);
  return issues.length > 0 ? fail(issues) : ok({ expression, joins: joined(writing.joins, '') });
}

/** What is known to be empty is NULL without a type, which suits every place. */
function written(tree: Expression, writing: Writing): SqlFragment {
  if (tree.type.t === 'null') return words('NULL');
  const of = (part: Expression) => write(part, writing);
  switch (tree.op) {
    case 'literal':
      return literalSql(tree.value, tree.type);
    case 'name':
      return tree.type.t === 'rows'
        ? writing.cannot(tree, 'rows as a value')
        : (writing.names.name(tree.id)?.sql ?? writing.cannot(tree, tree.name));
    case 'field':
      return columnOf(tree, writing)?.sql ?? writing.cannot(tree, tree.name);
    case 'negate':
      return tree.of.type.t === 'null' ? value(null, 'numeric') : sql`(- ${of(tree.of)})`;
    case 'arithmetic':
      return arithmeticSql(tree, writing);
    case 'compare':
      return comparisonSql(tree.by, of(tree.left), of(tree.right), tree.left.type);
    case 'between':
      return sql`(${of(tree.of)}${collation(tree.of.type)} BETWEEN ${of(tree.low)} AND ${of(tree.high)})`;
    case 'in':
      return sql`(${joined(
        tree.tests.map((test) => testSql(tree, test, writing)),
        ' OR ',
      )})`;
    case 'and':
      return sql`(${of(tree.left)} AND ${of(tree.right)})`;
    case 'or':
      return sql`(${of(tree.left)} OR ${of(tree.right)})`;
    case 'if':
      return sql`(CASE WHEN ${of(tree.when)} THEN ${of(tree.then)} ELSE ${of(tree.otherwise)} END)`;
    case 'part':
      return partSql(tree, of(tree.of));
    case 'call':
      return aggregateSql(tree, writing) ?? callSql(tree, writing);
    case 'some':
    case 'every':
      return aggregateSql(tree, writing) ?? writing.cannot(tree, tree.op);
    case 'instance':
      return tree.wanted.t === 'null'
        ? sql`(${of(tree.of)} IS NULL)`
        : fits(tree.of.type, tree.wanted)
          ? sql`(${of(tree.of)} IS NOT NULL)`
          : words('FALSE');
    default:
      return writing.cannot(tree, unsaid[tree.op]);
  }
}

const unsaid: Readonly<
  Record<
    'local' | 'each' | 'column' | 'list' | 'context' | 'range' | 'series' | 'index' | 'filter' | 'for',
    string
  >
> = {
  local: 'a row as a value',
  each: 'a list as a value',
  column: 'a column of rows as a value',
  list: 'a list as a value',
  context: 'a group of values',
  range: 'a range as a value',
  series: 'for',
  index: 'one of a list',
  filter: 'a list as a value',
  for: 'for',
};

/** A value of a type, as a parameter. */
export function literalSql(of: Value, type: Type): SqlFragment {
  const cast = sqlTypeOf(type);
  if (isBig(of)) return value(numberText(of), cast);
  if (of === null || typeof of === 'boolean') return value(of, cast);
  if (typeof of === 'string') return value(type.t === 'date-time' ? of.replace('T', ' ') : of, cast);
  const duration = of as Duration;
  return value(numberText(duration.amount), 'numeric');
}

function comparisonSql(by: Comparison, left: SqlFragment, right: SqlFragment, type: Type): SqlFragment {
  // Said so, an index on the column answers it.
  if (by === '=' && isName(left) && isValue(right)) return sql`(${left} = ${right} AND ${left} IS NOT NULL)`;
  if (by === '=') return sql`(${left} IS NOT DISTINCT FROM ${right})`;
  if (by === '!=') return sql`(${left} IS DISTINCT FROM ${right})`;
  return sql`(${left}${collation(type)} ${words(by)} ${right})`;
}

const isName = ([part, ...more]: SqlFragment): boolean =>
  more.length === 0 && typeof part === 'object' && 'names' in part;
const isValue = ([part, ...more]: SqlFragment): boolean =>
  more.length === 0 && typeof part === 'object' && 'value' in part && part.value !== null;

function testSql(tree: OfOp<'in'>, test: Test, writing: Writing): SqlFragment {
  const of = write(tree.of, writing);
  if (test.t === 'is') return comparisonSql('=', of, write(test.value, writing), tree.of.type);
  if (test.t === 'compare') return comparisonSql(test.by, of, write(test.value, writing), tree.of.type);
  if (test.t === 'within' && test.value.op === 'range') {
    const { low, high, lowIn, highIn } = test.value;
    return sql`(${comparisonSql(lowIn ? '>=' : '>', of, write(low, writing), tree.of.type)} AND ${comparisonSql(highIn ? '<=' : '<', of, write(high, writing), tree.of.type)})`;
  }
  if (test.t === 'member' && test.value.op === 'list' && test.value.items.length > 0) {
    return sql`(${joined(
      test.value.items.map((item) => comparisonSql('=', of, write(item, writing), tree.of.type)),
      ' OR ',
    )})`;
  }
  return writing.cannot(test.value, 'in');
}

function callSql(tree: OfOp<'call'>, writing: Writing): SqlFragment {
  if (tree.name === 'today') return writing.names.today;
  if (tree.name === 'now') return writing.names.now;
  const args = tree.args.map((arg) => ({ sql: () => write(arg, writing), type: arg.type, tree: arg }));
  return builtins.get(tree.name)?.sql?.(args) ?? writing.cannot(tree, tree.name);
}

/** A column of a looked-up record, joined once, or of the row that is gone through. */
function columnOf(tree: OfOp<'field'>, writing: Writing): { sql: SqlFragment } | null {
  const { of, id } = tree;
  if (of.op === 'local') {
    const known = writing.locals.get(of.slot);
    return known?.table.column(known.alias, id) ?? null;
  }
  if (of.type.t !== 'record') return null;
  const known = of.op === 'name' ? writing.names.part?.(of.id, id) : null;
  if (known) return known;
  const table = writing.names.records(of.type.table);
  return table?.column(recordAlias(of, table, writing), id) ?? null;
}

function recordAlias(of: Expression, table: SqlTable, writing: Writing): string {
  const link = write(of, writing);
  const key = JSON.stringify(link);
  const known = writing.records.get(key);
  if (known !== undefined) return known;
  const alias = writing.alias();
  writing.records.set(key, alias);
  writing.joins.push(
    sql` LEFT JOIN ${table.table} ${identifier(alias)} ON ${identifier(alias, 'id')} = ${link}`,
  );
  return alias;
}
