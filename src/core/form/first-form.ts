import { aboutColumn } from '../table/about';
import { singular } from '../table/label';
import { keptColumns, type Column, type Table } from '../table/model';
import type { FieldQuestion, FormDesign, RowsQuestion } from './design';
import { limits } from '../limits';

interface Ids {
  readonly section: string;
  /** Of the repeating rows at `index`. */
  readonly rows: (index: number) => string;
}

/** Rows that can be typed at once, unless the owner says otherwise. */
const MOST_ROWS = 50;
/** Columns shown beside the title of each option of a lookup. */
const SHOWN = 2;

/**
 * A form that fills a table as it stands, with the tables whose rows belong to its records as repeating rows,
 * and those that belong to these in them. Questions carry the ids of the columns, so releasing it changes no
 * table. What stamps itself is not asked.
 */
export function firstForm(table: Table, tables: ReadonlyMap<string, Table>, ids: Ids): FormDesign {
  const children = rowsOf(table, tables);
  const inner = children.flatMap((child) => rowsOf(child, tables));
  const all = [...children, ...inner];
  const idOf = (child: Table): string => ids.rows(all.indexOf(child));
  const rows = children.flatMap((child) => [
    rowsFor(child, tables, idOf(child)),
    ...rowsOf(child, tables).map((one) => ({ ...rowsFor(one, tables, idOf(one)), within: idOf(child) })),
  ]);
  const title = `New ${singular(table.label).toLowerCase()}`;
  return {
    format: 1,
    title,
    area: '',
    sections: [
      {
        id: ids.section,
        title: '',
        questions: [...keptColumns(table).map((column) => questionOf(column, tables)), ...rows],
      },
    ],
    checks: [],
    steps: [],
    table: targetOf(table),
  };
}

const rowsOf = (table: Table, tables: ReadonlyMap<string, Table>): Table[] =>
  [...tables.values()].filter(({ parent }) => parent === table.id);

const rowsFor = (table: Table, tables: ReadonlyMap<string, Table>, id: string): RowsQuestion => ({
  id,
  key: table.key,
  label: table.label,
  hint: '',
  required: false,
  kind: 'rows',
  columns: keptColumns(table).map((column) => questionOf(column, tables)),
  least: 0,
  most: MOST_ROWS,
  totals: [],
  table: targetOf(table),
});

const targetOf = ({ id, key, label, prefix }: Table): FormDesign['table'] => ({ id, key, label, prefix });

/** What asks for what a column holds. */
export function questionOf(column: Column, tables: ReadonlyMap<string, Table>): FieldQuestion {
  const { id, key, label, required, decimals, unit } = column;
  const choices =
    column.list === null ? column.choices.filter(({ retired }) => retired !== true) : column.choices;
  const asked = { id, key, label, hint: aboutColumn(column), required };
  switch (column.kind) {
    case 'text':
      return { ...asked, kind: 'text', long: false };
    case 'whole':
      return { ...asked, kind: 'whole', unit };
    case 'decimal':
      return { ...asked, kind: 'decimal', decimals: decimals ?? 0, unit };
    case 'money':
      return { ...asked, kind: 'money', decimals: decimals ?? 2, unit };
    case 'choice':
    case 'choices':
      return { ...asked, kind: column.kind, choices, ...(column.list !== null && { list: column.list }) };
    case 'files':
      return { ...asked, kind: 'files', what: 'files', most: limits.files };
    case 'reference':
      return {
        ...asked,
        kind: 'lookup',
        table: column.target ?? '',
        show: shownOf(tables.get(column.target ?? '')),
      };
    default:
      return { ...asked, kind: column.kind };
  }
}

/** What helps to tell records apart besides their title. */
const shownOf = (table: Table | undefined): string[] =>
  (table?.columns ?? [])
    .filter(
      ({ id, kind, personal }) => kind !== 'reference' && personal === null && !table?.title.includes(id),
    )
    .slice(0, SHOWN)
    .map(({ id }) => id);
