/**
 * A piece of SQL as data. Identifiers and values stay apart from the words around them until one renderer joins them:
 * the data layer with parameters, `inline.ts` with literals where PostgreSQL takes no parameters (policies, pictures of a rule).
 */
export type SqlFragment = readonly SqlPart[];
export type SqlPart = string | SqlIdentifier | SqlValue;

export interface SqlIdentifier {
  /** Schema, table, column: as many as there are. */
  readonly names: readonly string[];
}

export interface SqlValue {
  readonly value: string | boolean | null;
  readonly cast: SqlType;
}

export type SqlType = 'numeric' | 'text' | 'boolean' | 'date' | 'time' | 'timestamp' | 'uuid';

/** Words with fragments between them: sql`${left} + ${right}`. */
export function sql(words: TemplateStringsArray, ...between: SqlFragment[]): SqlFragment {
  const parts: SqlPart[] = [];
  const add = (part: SqlPart) => {
    const last = parts.at(-1);
    if (typeof part === 'string' && typeof last === 'string') parts[parts.length - 1] = last + part;
    else if (part !== '') parts.push(part);
  };
  words.forEach((word, i) => {
    add(word);
    for (const part of between[i] ?? []) add(part);
  });
  return parts;
}

export const identifier = (...names: string[]): SqlFragment => [{ names }];
export const value = (of: string | boolean | null, cast: SqlType): SqlFragment => [{ value: of, cast }];
/** Words written in this code, never anything that came from outside. */
export const words = (text: string): SqlFragment => [text];
export const joined = (fragments: readonly SqlFragment[], between: string): SqlFragment =>
  fragments.flatMap((fragment, i): SqlFragment => (i === 0 ? fragment : [between, ...fragment]));
