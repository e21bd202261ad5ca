import { kinds } from './kinds/list';
import { defaultSql } from './default-value';
import { keptColumns, type Column, type Table } from './model';

/** The SQL that makes a table like this one in any PostgreSQL database, with nothing of ours beside it. */
export function portableSql(table: Table, tables: ReadonlyMap<string, Table>): string {
  const lines = [
    'id uuid PRIMARY KEY',
    'number text NOT NULL UNIQUE',
    ...(table.parent === null ? [] : ['parent_id uuid NOT NULL', '"position" integer NOT NULL']),
    ...keptColumns(table).map(columnLine),
    'created_at timestamptz NOT NULL DEFAULT now()',
    'updated_at timestamptz NOT NULL DEFAULT now()',
    ...table.together.map(
      (set) =>
        `UNIQUE (${set
          .flatMap((id) => table.columns.find((column) => column.id === id) ?? [])
          .map(({ key }) => name(key))
          .join(', ')})`,
    ),
  ];
  return [
    `-- ${comment(table.label)}`,
    `CREATE TABLE ${name(table.key)} (`,
    lines.map((line) => `  ${line}`).join(',\n'),
    ');',
    `COMMENT ON TABLE ${name(table.key)} IS ${text(table.label)};`,
    ...keptColumns(table).map(
      (column) =>
        `COMMENT ON COLUMN ${name(table.key)}.${name(column.key)} IS ${text([column.label, column.unit, column.description].filter((one) => one !== '').join(', '))};`,
    ),
    ...references(table).map(
      ({ key, target }) =>
        `-- When ${name(tables.get(target)?.key ?? '')} is there: ALTER TABLE ${name(table.key)} ADD FOREIGN KEY (${name(key)}) REFERENCES ${name(tables.get(target)?.key ?? '')} (id);`,
    ),
    '',
  ].join('\n');
}

const references = ({ parent, columns }: Table): { key: string; target: string }[] => [
  ...(parent === null ? [] : [{ key: 'parent_id', target: parent }]),
  ...columns.flatMap(({ key, target }) => (target === null ? [] : [{ key, target }])),
];

function columnLine(column: Column): string {
  const preset = defaultSql(column);
  // A default that calls functions of ours means nothing elsewhere.
  const given =
    preset.ok && preset.value !== null && !preset.value.includes('slate.') ? ` DEFAULT ${preset.value}` : '';
  const codes = column.choices.map(({ code }) => text(code)).join(', ');
  const choices =
    column.kind === 'choice'
      ? ` CHECK (${name(column.key)} IN (${codes}))`
      : column.kind === 'choices'
        ? ` CHECK (${name(column.key)} <@ ARRAY[${codes}])`
        : '';
  return `${name(column.key)} ${kinds[column.kind].columnType(column)}${column.required ? ' NOT NULL' : ''}${column.unique ? ' UNIQUE' : ''}${given}${choices}`;
}

const name = (key: string): string => `"${key.replaceAll('"', '""')}"`;
const text = (words: string): string =>
  words.includes('\\')
    ? ` E'${words.replaceAll('\\', '\\\\').replaceAll("'", "''")}'`
    : `'${words.replaceAll("'", "''")}'`;
const comment = (words: string): string => words.replace(/[\r\n]+/g, ' ');
