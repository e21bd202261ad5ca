import { readFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { Temporal } from 'temporal-polyfill';
import { loadPatterns } from '../src/core/expression/functions/patterns';
import { identifier } from '../src/core/expression/sql/fragment';
import { inlined } from '../src/core/expression/sql/inline';
import { atMoment, type SqlNames } from '../src/core/expression/sql/names';
import { toSql } from '../src/core/expression/sql/to-sql';
import { TEXT, elementOf } from '../src/core/expression/type';
import { tryOut, type Tried, type Trial } from '../src/core/expression/try-out';
import type { Issue } from '../src/core/kernel/issue';
import { workspace, worldOf } from '../tests/support/workspace';
import { issueSentence } from '../src/core/wording/issue-sentence';

/**
 * Tries expressions out: a line of JSON `{"expression", "types"?, "context"?}` on standard input gives a line each,
 * `{"value"}` or `{"refused": [{code, message, from, to}]}`. With `--sql` also `"sql"`, names as columns and its functions those of
 * schema slate (`--functions` prints them); where SQL cannot say it, `"sql": null` and `"notInSql"`.
 */
const world = worldOf(Temporal.Now.plainDateTimeISO(workspace.zone).toString({ smallestUnit: 'second' }));

await loadPatterns();
const withSql = process.argv.includes('--sql');
if (process.argv.includes('--functions')) {
  process.stdout.write(
    readFileSync(
      new URL('../src/data/system/migrations/0002_expression_functions.sql', import.meta.url),
      'utf8',
    ).replaceAll('--> statement-breakpoint\n', ''),
  );
  process.exit(0);
}

for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
  if (line.trim() !== '') process.stdout.write(`${JSON.stringify(answer(line))}\n`);
}

function answer(line: string): object {
  const trial = asTrial(line);
  if (trial === null)
    return {
      refused: [
        {
          code: 'malformed',
          message: 'Each line is JSON: {"expression": "1 + 1", "types": {}, "context": {}}',
          from: 0,
          to: 0,
        },
      ],
    };
  const tried = tryOut(trial, world);
  if (!tried.ok) return refusal(tried.error);
  const value = tried.value.value();
  if (!value.ok) return refusal(value.error);
  return withSql ? { value: value.value, ...sqlOf(tried.value) } : { value: value.value };
}

function sqlOf({ tree, fields }: Tried): object {
  const names: SqlNames = {
    name: (id) => (elementOf(fields.get(id)?.type ?? TEXT) === null ? { sql: identifier(id) } : null),
    rowId: null,
    rows: () => null,
    records: () => null,
    ...atMoment(world.today, world.now),
  };
  const sql = toSql(tree, names);
  return sql.ok ? { sql: inlined(sql.value.expression) } : { sql: null, notInSql: asLines(sql.error) };
}

function asTrial(line: string): Trial | null {
  try {
    const json: unknown = JSON.parse(line);
    const { expression, types, context } = (json ?? {}) as Record<string, unknown>;
    const sound =
      typeof expression === 'string' &&
      [types, context].every(
        (one) => one === undefined || (typeof one === 'object' && one !== null && !Array.isArray(one)),
      );
    return sound ? (json as Trial) : null;
  } catch {
    return null;
  }
}

function refusal(issues: readonly Issue[]): object {
  return { refused: asLines(issues) };
}

function asLines(issues: readonly Issue[]): object[] {
  return issues.map((one) => ({
    code: one.code,
    message: issueSentence(one),
    from: one.facts['from'] ?? 0,
    to: one.facts['to'] ?? 0,
    ...(one.path.length > 0 ? { at: one.path } : {}),
  }));
}
