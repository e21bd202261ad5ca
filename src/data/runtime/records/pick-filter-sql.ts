import { sql } from 'drizzle-orm';
import type { World } from '../../../core/expression/functions/builtin';
import { value, type SqlFragment } from '../../../core/expression/sql/fragment';
import type { SqlNames } from '../../../core/expression/sql/names';
import { literalSql, toSql } from '../../../core/expression/sql/to-sql';
import { nodesOf, type Expression } from '../../../core/expression/tree';
import type { Type } from '../../../core/expression/type';
import { isRecord, type Value } from '../../../core/expression/value';
import { columnNamed } from '../../../core/form/lookup-filter';
import type { Issue } from '../../../core/kernel/issue';
import { ok, type Result } from '../../../core/kernel/result';
import type { Table } from '../../../core/table/model';
import { rendered } from '../../identifiers';
import { recordNames } from '../tables/form-names';
import type { Condition } from './filter-sql';

interface Asked extends Pick<World, 'today' | 'now'> {
  /** By id of a question. */
  readonly answers: ReadonlyMap<string, Value>;
}

/** The filter of a lookup over the records of its table under the alias `t`, with the answers it reads as values. */
export function pickFilterSql(
  tree: Expression,
  table: Table,
  tables: ReadonlyMap<string, Table>,
  { answers, ...world }: Asked,
): Result<Condition, Issue[]> {
  const columns = recordNames(table, tables, 't', () => undefined, world);
  const types = new Map(
    [...nodesOf(tree)].flatMap((node) => (node.op === 'name' ? [[node.id, node.type] as const] : [])),
  );
  const names: SqlNames = {
    ...columns,
    name: (id) => {
      const column = columnNamed(id);
      if (column !== null) return columns.name(column);
      const type = types.get(id);
      return type === undefined ? null : { sql: answerSql(answers.get(id) ?? null, type) };
    },
  };
  const written = toSql(tree, names);
  if (!written.ok) return written;
  const { joins, expression } = written.value;
  return ok({ joins: rendered(joins), holds: sql`(${rendered(expression)}) IS TRUE` });
}

const answerSql = (of: Value, type: Type): SqlFragment =>
  isRecord(of) ? value(of.id, 'uuid') : literalSql(of, type);
