import type { UsePlace } from '../table/table-change';
import type { Table } from '../table/model';
import { compileForm } from './compile-form';
import {
  fieldsOfForm,
  groupsOf,
  isField,
  questionsOf,
  totalsBeside,
  type FieldQuestion,
  type FormDesign,
} from './design';
import type { TablesById } from './scope';

/** The columns of a table a form asks for, shows, carries along or reads in an expression, by id. */
export function columnUses(design: FormDesign, tables: TablesById, table: Table): Map<string, Set<UsePlace>> {
  const uses = new Map<string, Set<UsePlace>>();
  const add = (column: string, place: UsePlace) => {
    if (!uses.has(column)) uses.set(column, new Set());
    uses.get(column)?.add(place);
  };
  for (const { target, fields } of filled(design))
    if (target === table.id) for (const { id } of fields) add(id, 'asked');
  const lookups = new Map(
    fieldsOf(design).flatMap((one) => (one.kind === 'lookup' ? [[one.id, one] as const] : [])),
  );
  for (const lookup of lookups.values())
    if (lookup.table === table.id) for (const id of [...lookup.show, ...table.title]) add(id, 'shown');
  for (const { carry } of fieldsOf(design))
    if (carry !== undefined && lookups.get(carry.lookup)?.table === table.id) add(carry.column, 'carried');
  const compiled = compileForm(design, tables);
  if (compiled.ok) for (const id of compiled.value.columnsRead.get(table.id) ?? []) add(id, 'expression');
  return uses;
}

const fieldsOf = (design: FormDesign): FieldQuestion[] =>
  questionsOf(design).flatMap((one): readonly FieldQuestion[] =>
    one.kind === 'rows' ? one.columns : isField(one) ? [one] : [],
  );

/** What is written to which table. */
function filled(design: FormDesign): { target: string; fields: readonly { id: string }[] }[] {
  return [
    { target: design.table.id, fields: [...fieldsOfForm(design), ...totalsBeside(design, null)] },
    ...groupsOf(design).map((group) => ({
      target: group.table.id,
      fields: [...group.columns, ...totalsBeside(design, group)],
    })),
  ];
}
