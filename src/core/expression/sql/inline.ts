import type { SqlFragment, SqlPart } from './fragment';

/** A fragment with its values written in as literals. For policies, which take no parameters, and for showing a rule as SQL. */
export const inlined = (fragment: SqlFragment): string => fragment.map(partText).join('');

function partText(part: SqlPart): string {
  if (typeof part === 'string') return part;
  if ('names' in part) return part.names.map((name) => `"${clean(name).replaceAll('"', '""')}"`).join('.');
  if (part.value === null) return `NULL::${part.cast}`;
  if (typeof part.value === 'boolean') return part.value ? 'TRUE' : 'FALSE';
  return `${literal(part.value)}::${part.cast}`;
}

/** With `E''` a backslash means itself under every setting of standard_conforming_strings. */
function literal(text: string): string {
  const quoted = `'${clean(text).replaceAll("'", "''").replaceAll('\\', '\\\\')}'`;
  return text.includes('\\') ? ` E${quoted}` : quoted;
}

function clean(text: string): string {
  if (text.includes('\u0000')) throw new Error('PostgreSQL holds no NUL');
  return text;
}
