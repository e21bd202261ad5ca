import type { SheetData } from '../../contract/sheet-from-server';
import { groupsOf, type FormDesign } from '../../core/form/design';
import type { Table } from '../../core/table/model';

/**
 * A sheet as it leaves the house: what is asked, and nothing of how the house works. Who decides, what is
 * written besides, which rules hold among records: all of that is held by the server, and told to nobody.
 */
export function forOutside(data: SheetData): SheetData {
  const { design, sender } = data;
  const said = JSON.stringify(data.design);
  const own = new Set([design.table.id, ...groupsOf(design).map(({ table }) => table.id)]);
  return {
    ...data,
    outside: true,
    design: plainDesign(design),
    tables: data.tables.map((table) => (own.has(table.id) ? plainTable(table) : shownTable(table, said))),
    people: [],
    silent: [],
    asking: { id: sender.id, name: '', place: '' },
    newer: null,
    submission:
      data.submission === null
        ? null
        : {
            ...data.submission,
            sender: { id: sender.id, name: '', place: '' },
            waits: [],
            handOverTo: [],
            onPath: [],
            mayRemark: false,
            skipped: [],
            events: [],
            recordId: null,
          },
  };
}

function plainDesign({
  rules: _,
  further: __,
  existing: ___,
  finds: ____,
  ...design
}: FormDesign): FormDesign {
  return { ...design, steps: [], after: undefined };
}

const plainTable = (table: Table): Table => ({
  ...table,
  matches: [],
  retired: [],
  linked: null,
  columns: table.columns.map((column) => ({ ...column, example: '', personal: null })),
});

/** Of a table that a lookup shows: what names its records, and the columns the form names. */
const shownTable = (table: Table, said: string): Table => ({
  ...plainTable(table),
  checks: [],
  together: [],
  columns: plainTable(table)
    .columns.filter(({ id }) => table.title.includes(id) || said.includes(id))
    .map((column) => ({ ...column, formula: '', default: '' })),
});
