import { sql, type SQL } from 'drizzle-orm';
import type { Column } from '../../../core/table/model';
import { columnName } from '../../identifiers';

/**
 * A column under an alias as people see it: choices by their words, days written out, yes and no. What is
 * searched and what is shown is then the same. References are left to their ids; whoever knows the tables
 * joins their titles.
 */
export function shownText(column: Column, at: SQL): SQL {
  const cell = sql`${at}.${columnName(column)}`;
  switch (column.kind) {
    case 'choice':
      return column.choices.length === 0
        ? cell
        : sql`CASE ${cell} ${sql.join(
            column.choices.map(({ code, label }) => sql`WHEN ${code} THEN ${label}`),
            sql` `,
          )} ELSE ${cell} END`;
    case 'choices':
      return sql`(SELECT string_agg(l.label, ', ' ORDER BY l.place) FROM (VALUES ${sql.join(
        column.choices.map(({ code, label }, i) => sql`(${code}, ${label}, ${i})`),
        sql`, `,
      )}) AS l (code, label, place) WHERE l.code = ANY (${cell}))`;
    case 'files':
      return sql`cardinality(${cell})::text`;
    case 'date':
      return sql`to_char(${cell}, 'Dy FMDD Mon YYYY')`;
    case 'date-time':
      return sql`to_char(${cell}, 'Dy FMDD Mon YYYY, HH24:MI')`;
    case 'time':
      return sql`to_char(${cell}, 'HH24:MI')`;
    case 'yes-no':
      return sql`CASE WHEN ${cell} THEN 'Yes' WHEN NOT ${cell} THEN 'No' END`;
    case 'money':
      return column.unit === '' ? sql`${cell}::text` : sql`${`${column.unit}\u00a0`}::text || ${cell}::text`;
    case 'text':
    case 'whole':
    case 'decimal':
    case 'e-mail':
    case 'web-address':
    case 'phone':
    case 'reference':
      return sql`${cell}::text`;
  }
}
