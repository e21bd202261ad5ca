import {
  hiddenColumns,
  isLimited,
  may,
  seenTable,
  tablesFor,
  type Catalogue,
} from '../../core/catalogue/catalogue';
import type { FormOfTable, MayEdit, RelatedTable, TableAtWork } from '../../contract/answers-from-server';
import { mayDesign } from '../../core/access/rules';
import { matchedWith } from '../../core/table/matches';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { deviceKey } from '../../data/secret';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { allFilterables } from '../../core/record/filter';
import { placesOf } from '../../core/record/places';
import { offeredViews } from './keep-view';
import { liveForms } from '../../data/system/forms';
import { readLook } from '../../data/system/views';
import { mayChangeBy, mayViewBy } from '../submissions/record-in-change';
import { asPerson } from '../../data/transaction';
import { seenTables } from './which-records';
import type { Context } from '../workspace/asking';

/** A table as whoever asks may work in it, with the tables whose records belong or refer to those of it. */
export async function tableAtWork(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  table: Table,
): Promise<TableAtWork> {
  const { person } = context;
  const related = relatedTables(catalogue, person.id, table);
  const seen = seenTables(catalogue, person.id);
  const named = [table, ...related.map((one) => one.table)].flatMap(({ columns, parent }) => [
    ...columns.flatMap(({ target }) => target ?? []),
    ...(parent === null ? [] : [parent]),
  ]);
  return {
    table,
    may: mayEdit(catalogue, person.id, table),
    related,
    targets: Object.fromEntries(
      [...new Set(named)].flatMap((id) => {
        const known = catalogue.tables.get(id);
        return known !== undefined && may(catalogue, person.id, 'see', id) ? [[id, known.key]] : [];
      }),
    ),
    deviceKey: deviceKey(person.id),
    isLimited: isLimited(catalogue, person.id, table),
    restricted: restrictedFrom(catalogue, person.id, table),
    mayDesign: mayDesign(person) && may(catalogue, person.id, 'design', table.id),
    places: placesOf(table, seen),
    filterables: allFilterables(table, seen),
    look: await readLook(tx, person.id, table.id),
    views: await offeredViews(tx, catalogue, context, table),
    groups: [...catalogue.groups.values()].map(({ id, label }) => ({ id, label })),
    forms: await formsOf(tx, catalogue, person.id, table),
  };
}

/** What the columns are called that they do not see. */
function restrictedFrom(catalogue: Catalogue, person: string, { id }: Table): string[] {
  const whole = catalogue.tables.get(id);
  const hidden = whole === undefined ? [] : hiddenColumns(catalogue, person, whole);
  return (whole?.columns ?? []).filter((column) => hidden.includes(column)).map(({ label }) => label);
}

async function formsOf(tx: Tx, catalogue: Catalogue, person: string, table: Table): Promise<FormOfTable[]> {
  const live = await liveForms(tx, catalogue);
  return live
    .filter(
      ({ formId, design }) => design.table.id === table.id && mayViewBy(catalogue, person, formId, design),
    )
    .map(({ formId, key, design }) => ({
      key,
      title: design.title,
      mayChange: mayChangeBy(catalogue, person, formId, design),
    }))
    .sort((a, b) => a.title.localeCompare(b.title));
}

export function openTableAtWork(context: Context, key: string): Promise<Result<TableAtWork, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, key);
    return table === null ? fail(notFound('table')) : ok(await tableAtWork(tx, catalogue, context, table));
  });
}

/** Its rows first, then what refers to its records, a table once for each column that does, then what is matched with them. */
export function relatedTables(catalogue: Catalogue, person: string, to: Table): RelatedTable[] {
  const seen = tablesFor(catalogue, person, 'see');
  const of = (
    table: Table,
    column: string | null,
    via = column ?? 'rows',
    same: string | null = null,
  ): RelatedTable => ({
    table,
    column,
    via,
    same,
    may: mayEdit(catalogue, person, table),
  });
  return [
    ...seen.filter(({ parent }) => parent === to.id).map((table) => of(table, null)),
    ...seen.flatMap((table) =>
      table.columns.filter(({ target }) => target === to.id).map(({ id }) => of(table, id)),
    ),
    ...matchedWith(to, seenTables(catalogue, person)).map((one) =>
      of(one.table, one.to.id, one.via, one.from.id),
    ),
  ];
}

function mayEdit(catalogue: Catalogue, person: string, table: Table): MayEdit {
  const allowed = (action: keyof MayEdit, outside: boolean): boolean =>
    may(catalogue, person, action, table.id) && (table.linked === null || outside);
  return {
    add: allowed('add', table.linked?.adds ?? false),
    change: allowed('change', table.linked?.changes ?? false),
    remove: allowed('remove', false),
  };
}
