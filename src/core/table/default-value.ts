import { read } from '../expression/read';
import { inlined } from '../expression/sql/inline';
import { words } from '../expression/sql/fragment';
import { toSql } from '../expression/sql/to-sql';
import type { Expression } from '../expression/tree';
import { fits } from '../expression/type';
import { issue, under, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { kinds } from './kinds/list';
import type { Column } from './model';

/** A column's default as SQL that PostgreSQL takes for its own: it may use the day and the time, and nothing else. Null for none. */
export function defaultSql(column: Column): Result<string | null, Issue[]> {
  if (column.default.trim() === '') return ok(null);
  const tree = read(column.default, new Map());
  if (!tree.ok) return fail(under([column.id, 'default'], tree.error));
  const wrong = misfit(tree.value, column);
  if (wrong !== null) return fail([wrong]);
  const sql = toSql(tree.value, {
    name: () => null,
    rowId: null,
    rows: () => null,
    records: () => null,
    today: words('CURRENT_DATE'),
    now: words("date_trunc('second', LOCALTIMESTAMP)"),
  });
  return sql.ok ? ok(`(${inlined(sql.value.expression)})`) : fail(under([column.id, 'default'], sql.error));
}

function misfit(tree: Expression, column: Column): Issue | null {
  if (column.kind === 'reference' || column.kind === 'choices' || !fits(tree.type, kinds[column.kind].type))
    return issue('default-kind', [column.id, 'default'], { label: column.label });
  if (column.kind !== 'choice' || tree.op !== 'literal') return null;
  return column.choices.some(({ code }) => code === tree.value)
    ? null
    : issue('default-choice', [column.id, 'default'], {
        codes: column.choices
          .slice(0, 5)
          .map(({ code }) => `"${code}"`)
          .join(', '),
      });
}
