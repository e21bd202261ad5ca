import type { CompiledForm } from '../../core/form/compile-form';
import type { Answers } from '../../core/form/answers';
import { groupsOf, questionsOf, type FormDesign, type LookupQuestion } from '../../core/form/design';
import { isUuid } from '../../core/kernel/ids';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import type { PickedRecord } from '../../core/form/picked-record';
import { pickById, type PickFrom } from '../../data/runtime/records/pick-records';

/** A lookup, and the repeating rows it stands in. */
export interface PlacedLookup {
  readonly question: LookupQuestion;
  readonly group: string | null;
}

export function lookupsOf(design: FormDesign): PlacedLookup[] {
  const own = questionsOf(design).flatMap((question) =>
    question.kind === 'lookup' ? [{ question, group: null }] : [],
  );
  const inner = groupsOf(design).flatMap((group) =>
    group.columns.flatMap((column) =>
      column.kind === 'lookup' ? [{ question: column, group: group.id }] : [],
    ),
  );
  return [...own, ...inner];
}

/** What a lookup reads of its table: the columns it shows, and those the form's expressions read. Nothing else leaves the database. */
export function pickFrom(
  form: CompiledForm,
  tables: ReadonlyMap<string, Table>,
  question: LookupQuestion,
): PickFrom | null {
  const table = tables.get(question.table);
  if (table === undefined) return null;
  const read = form.columnsRead.get(table.id) ?? new Set();
  return {
    table,
    show: table.columns.filter(({ id }) => question.show.includes(id)),
    read: [...table.columns, ...table.retired].filter(({ id }) => read.has(id)),
  };
}

/** The records the answers name, as far as they can be read by who asks. */
export async function pickedRecords(
  tx: Tx,
  form: CompiledForm,
  tables: ReadonlyMap<string, Table>,
  ...sheets: (Answers | null)[]
): Promise<Record<string, PickedRecord[]>> {
  const wanted = new Map<string, { question: LookupQuestion; ids: Set<string> }>();
  for (const { question, group } of lookupsOf(form.design)) {
    const known = wanted.get(question.table) ?? { question, ids: new Set<string>() };
    for (const answers of sheets)
      for (const raw of rawsOf(answers, question.id, group))
        if (typeof raw === 'string' && isUuid(raw)) known.ids.add(raw);
    wanted.set(question.table, known);
  }
  const found: Record<string, PickedRecord[]> = {};
  for (const [table, { question, ids }] of wanted) {
    const from = pickFrom(form, tables, question);
    if (from !== null) found[table] = await pickById(tx, from, [...ids]);
  }
  return found;
}

function rawsOf(answers: Answers | null, id: string, group: string | null): unknown[] {
  if (answers === null) return [];
  return group === null ? [answers.values[id]] : (answers.rows[group] ?? []).map((row) => row.cells[id]);
}
