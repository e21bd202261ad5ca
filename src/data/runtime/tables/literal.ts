import { sql, type SQL } from 'drizzle-orm';

/** Statements that change tables take no parameters, so text is written in, as PostgreSQL's own quote_literal does. */
export function literal(value: string): SQL {
  const escaped = value.replaceAll('\u0000', '').replaceAll("'", "''").replaceAll('\\', '\\\\');
  return sql.raw(escaped.includes('\\') ? `E'${escaped}'` : `'${escaped}'`);
}
