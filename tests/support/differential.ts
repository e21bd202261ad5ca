import Big from 'big.js';
import type pg from 'pg';
import { seeded, type Random } from '../../demo/random';
import { compile, type Source } from '../../src/core/expression/compile';
import { Duration } from '../../src/core/expression/duration';
import { numberText } from '../../src/core/expression/number';
import { read } from '../../src/core/expression/read';
import { identifier, sql } from '../../src/core/expression/sql/fragment';
import { inlined } from '../../src/core/expression/sql/inline';
import { atMoment, type NumberSize, type SqlNames } from '../../src/core/expression/sql/names';
import { toSql } from '../../src/core/expression/sql/to-sql';
import { LONGEST_EXPRESSION } from '../../src/core/expression/read';
import type { ScalarName } from '../../src/core/expression/type';
import { isBig, type ContextValue, type Value } from '../../src/core/expression/value';
import { worldOf } from './workspace';
import { childColumns, parentColumns, randomExpression, scopeOfRecord } from './random-expression';

/** The same expressions over the same rows, by closures and by PostgreSQL. Needs a database with schema `slate`. */
const world = worldOf('2026-11-23T10:15:30');
const kinds: readonly ScalarName[] = [
  'number',
  'text',
  'yes-no',
  'date',
  'time',
  'date-time',
  'days',
  'months',
];
const columnTypes: Readonly<Partial<Record<ScalarName, string>>> = {
  number: 'numeric',
  text: 'text',
  'yes-no': 'boolean',
  date: 'date',
  time: 'time',
  'date-time': 'timestamp',
};

interface Subject {
  readonly values: ReadonlyMap<string, Value>;
  readonly lines: readonly ContextValue[];
}

const two = (n: number): string => String(n).padStart(2, '0');

function randomValue(random: Random, type: ScalarName): Value {
  if (random.chance(0.15)) return null;
  switch (type) {
    case 'number':
      return new Big(
        random.pick([
          () => String(random.whole(-20, 20)),
          () => (random.whole(-99_999, 99_999) / 100).toString(),
          () =>
            `${random.whole(1, 9_999_999)}${random.whole(1_000_000, 9_999_999)}${random.whole(0, 999)}.${random.whole(1, 99_999_999)}`,
        ])(),
      );
    case 'text':
      return random.pick([
        '',
        ' ',
        'fern',
        'Fern house',
        'ÉCLAIR',
        'straße',
        'ΣΑΣ',
        'a-b-c',
        '🌿 leaf',
        '\uFFFD',
        'ﬃ',
        'שלום',
        '  padded ',
        'it\'s "quoted" \\ back',
      ]);
    case 'yes-no':
      return random.chance(0.5);
    case 'date':
      return `${random.whole(1890, 2110)}-${two(random.whole(1, 12))}-${two(random.whole(1, 28))}`;
    case 'time':
      return `${two(random.whole(0, 23))}:${two(random.whole(0, 59))}:${two(random.whole(0, 59))}${random.chance(0.3) ? '.25' : ''}`;
    default:
      return `${random.whole(1890, 2110)}-${two(random.whole(1, 12))}-${two(random.whole(1, 28))}T${two(random.whole(0, 23))}:30:${two(random.whole(0, 59))}`;
  }
}

function randomSubject(random: Random): Subject {
  const row = (columns: typeof parentColumns): ContextValue =>
    new Map(columns.map(([name, type]) => [name, randomValue(random, type)]));
  return {
    values: row(parentColumns),
    lines: Array.from({ length: random.whole(0, 4) }, () => row(childColumns)),
  };
}

const parameter = (value: Value): string | boolean | null =>
  isBig(value) ? numberText(value) : (value as string | boolean | null);

/** Makes the two tables and fills them; gives what the closures will see. */
export async function makeSubjects(client: pg.ClientBase, seed: number, count: number): Promise<Subject[]> {
  const random = seeded(seed);
  const subjects = Array.from({ length: count }, () => randomSubject(random));
  const columns = (list: typeof parentColumns) =>
    list.map(([name, type]) => `${name} ${columnTypes[type] ?? 'text'}`).join(', ');
  await client.query(
    `CREATE SCHEMA differential; CREATE TABLE differential.subject (id int PRIMARY KEY, ${columns(parentColumns)}); CREATE TABLE differential.line (parent_id int, ${columns(childColumns)}, gone boolean)`,
  );
  const insert = (table: string, first: number, values: readonly Value[]) =>
    client.query(
      `INSERT INTO differential.${table} VALUES (${[first, ...values].map((_, i) => `$${i + 1}`).join(', ')})`,
      [first, ...values.map(parameter)],
    );
  for (const [i, subject] of subjects.entries()) {
    await insert('subject', i, [...subject.values.values()]);
    for (const line of subject.lines) await insert('line', i, [...line.values(), false]);
    await insert('line', i, [
      ...(randomSubject(random).lines[0]?.values() ?? childColumns.map(() => null)),
      true,
    ]);
  }
  return subjects;
}

/** Digits that the columns hold, so that the forms for numbers known to be short are compared too. */
const sizes: Readonly<Record<string, NumberSize>> = {
  num_a: { whole: 20, decimals: 8 },
  num_b: { whole: 20, decimals: 8 },
  big: { whole: 20, decimals: 8 },
};

const names: SqlNames = {
  name: (id) => ({ sql: identifier('r', id), ...(sizes[id] && { size: sizes[id] }) }),
  rowId: identifier('r', 'id'),
  rows: () => ({
    table: identifier('differential', 'line'),
    column: (alias, id) => ({ sql: identifier(alias, id) }),
    parent: (alias) => identifier(alias, 'parent_id'),
    live: (alias) => sql`NOT ${identifier(alias, 'gone')}`,
  }),
  records: () => null,
  ...atMoment(world.today, world.now),
};

function sourceOf({ values, lines }: Subject): Source {
  return {
    ...world,
    read: (id) => (id === 'lines' ? lines : (values.get(id) ?? null)),
    column: (_, id) => lines.map((line) => line.get(id) ?? null),
    gaveUp: () => {
      throw new Error('gave up');
    },
  };
}

/** A value as one text that both sides can write. */
function asText(value: Value): string | null {
  if (isBig(value)) return numberText(value);
  return value instanceof Duration ? numberText(value.amount) : value === null ? null : String(value);
}
const textIn: Readonly<Record<ScalarName, (sql: string) => string>> = {
  number: (sql) => `trim_scale(${sql})::text`,
  days: (sql) => `trim_scale(${sql})::text`,
  months: (sql) => `trim_scale(${sql})::text`,
  text: (sql) => sql,
  'yes-no': (sql) => `(${sql})::text`,
  date: (sql) => `to_char(${sql}, 'YYYY-MM-DD')`,
  time: (sql) => `(${sql})::text`,
  'date-time': (sql) => `to_char(${sql}, 'YYYY-MM-DD"T"') || (${sql})::time::text`,
};

export interface Compared {
  readonly expressions: number;
  readonly values: number;
  readonly empty: number;
  readonly differences: readonly {
    expression: string;
    sql: string;
    row: number;
    closure: string | null;
    database: string | null;
  }[];
}

/** Compares `count` expressions made at random; a difference names the expression, its SQL and the row. */
export async function compareAtRandom(
  client: pg.ClientBase,
  subjects: readonly Subject[],
  seed: number,
  count: number,
): Promise<Compared> {
  const random = seeded(seed);
  const differences: Compared['differences'][number][] = [];
  let [values, empty, done] = [0, 0, 0];
  while (done < count) {
    const type = random.pick(kinds);
    const text = randomExpression(random, type, random.whole(1, 4), { sql: true });
    if (text.length > LONGEST_EXPRESSION) continue;
    done++;
    const found = await compareOne(client, subjects, text, type);
    values += subjects.length;
    empty += found.empty;
    differences.push(...found.differences);
  }
  return { expressions: done, values, empty, differences };
}

async function compareOne(
  client: pg.ClientBase,
  subjects: readonly Subject[],
  text: string,
  type: ScalarName,
): Promise<Pick<Compared, 'empty' | 'differences'>> {
  const tree = read(text, scopeOfRecord);
  if (!tree.ok) throw new Error(`${text}\n${JSON.stringify(tree.error)}`);
  const written = toSql(tree.value, names);
  if (!written.ok) throw new Error(`${text}\n${JSON.stringify(written.error)}`);
  const query = `SELECT ${textIn[type](inlined(written.value.expression))} AS v FROM differential.subject r${inlined(written.value.joins)} ORDER BY r.id`;
  const { rows } = await client.query<{ v: string | null }>(query).catch((error: unknown) => {
    throw new Error(`${text}\n${query}\n${String(error)}`);
  });
  const run = compile(tree.value);
  const closures = subjects.map((subject) => asText(run(sourceOf(subject))));
  const differences = closures.flatMap((closure, row) =>
    closure === (rows[row]?.v ?? null)
      ? []
      : [{ expression: text, sql: query, row, closure, database: rows[row]?.v ?? null }],
  );
  return { empty: closures.filter((one) => one === null).length, differences: differences.slice(0, 1) };
}
