import type { Detection } from '../import/detection';
import { columnPath, noDecisions, type Decisions } from '../import/decisions';
import { detect } from '../import/detect';
import type { PlannedTable } from '../import/import-plan';
import { planImport } from '../import/plan-import';
import { groupId, numberedId } from '../import/proposals';
import { SheetProfile } from '../import/sheet-profile';
import type { Table } from '../table/model';
import type { LeftBehind } from './carry-column';
import type { ListMapping } from './link';
import type { ListRows } from './list-rows';

/** A list outside as it would be a table here. */
export interface ListPlan {
  readonly table: Table;
  readonly mapping: ListMapping;
  readonly left: readonly LeftBehind[];
}

/**
 * Reads out of the entries of a list what table they would make; null when nothing tells them apart. Only
 * what an entry is known by is required and unique, and nothing is a choice: the next refresh may bring what
 * none of today's entries has. `id` is a UUID the table's own follows from.
 */
export function planList(
  list: ListRows,
  label: string,
  there: readonly Table[],
  id: string,
): ListPlan | null {
  const detection = detectionOf(list);
  const [sheet] = detection.sheets;
  const key = sheet?.keys.find((names) => names.length === 1)?.[0];
  if (sheet === undefined || key === undefined) return null;
  const decisions: Decisions = {
    ...noDecisions,
    sheets: { [sheet.name]: { label } },
    declined: [
      ...sheet.repeatedGroups.map((one) => groupId(sheet.name, one)),
      ...sheet.numberedColumns.map((one) => numberedId(sheet.name, one)),
    ],
    columns: Object.fromEntries(
      sheet.columns.map((column) => [
        columnPath(sheet.name, column.name),
        {
          ...(column.kind === 'choice' && { kind: 'text' as const }),
          ...(column.ask?.t === 'date-order' && { dateOrder: 'dmy' as const }),
        },
      ]),
    ),
  };
  const planned = planImport(id, detection, decisions, there).tables[0];
  return planned === undefined
    ? null
    : {
        ...asLinked(planned, list, key),
        left: list.manyValued.map((column) => ({ column, why: 'many-values', detail: '' })),
      };
}

function detectionOf({ fields, rows }: ListRows): Detection {
  const profile = new SheetProfile(LIST);
  profile.add({ numbers: [1], rows: [fields.map(heading)] });
  for (let at = 0; at < rows.length; at += SOME) {
    const some = rows.slice(at, at + SOME);
    profile.add({
      numbers: some.map((_, i) => at + i + 2),
      rows: some.map((row) => fields.map((field) => row.get(field) ?? '')),
    });
  }
  profile.end();
  return detect([profile]);
}

/** What lies within another field is headed by both names. */
const heading = (field: string): string => field.replaceAll('.', '_');
const LIST = 'list';
const SOME = 1_000;

function asLinked(
  { table, columns }: PlannedTable,
  { at, fields }: ListRows,
  key: string,
): { table: Table; mapping: ListMapping } {
  const named = columns.map(({ column, at: [place = 0], reading }) => ({
    column: column.id,
    field: fields[place] ?? '',
    reading,
  }));
  const by = named.filter(({ field }) => heading(field) === key).map(({ column }) => column);
  return {
    table: {
      ...table,
      columns: table.columns.map((column) => ({
        ...column,
        required: by.includes(column.id),
        unique: by.includes(column.id),
      })),
    },
    mapping: { t: 'list', at, columns: named, by },
  };
}
