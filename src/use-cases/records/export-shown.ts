import { seenTable } from '../../core/catalogue/catalogue';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Place } from '../../core/record/places';
import { readRecords, type RecordQuery } from '../../data/runtime/records/records';
import { asPerson } from '../../data/transaction';
import { mediaTypes, written, type Download, type ExportFormat, type TakenRow } from '../../files/take-out';
import type { Context } from '../workspace/asking';
import { isOwn, placedSorts, shownPlaces } from './shown-places';
import { seenTables, whichRecords, wordsSeen } from './which-records';

/** Records a query, so that no transaction lasts as long as the export. */
const AT_ONCE = 1_000;

interface Shown {
  readonly find: string;
  readonly where: string;
  readonly sort: string;
  readonly columns: string;
}

/** The records that are shown, with the columns that are shown, in their order, as a file. */
export async function exportShown(
  context: Context,
  key: string,
  format: ExportFormat,
  shown: Shown,
): Promise<Result<Download, Refusal>> {
  const asked = await batch(context, key, shown, null);
  if (!asked.ok) return asked;
  const { table, places } = asked.value;
  return ok({
    name: `${table.key}.${format}`,
    type: mediaTypes[format],
    body: written(format, {
      name: table.label,
      columns: places.map(({ column, text, label }) =>
        // What is reached is shown as a text of its own: its titles name no record of this table.
        text.includes('.') && column.kind === 'reference'
          ? { ...column, key: text, label, kind: 'text' as const, target: null }
          : { ...column, key: text, label },
      ),
      rows: rowsOf(context, key, shown),
    }),
  });
}

/** Each batch by itself goes on behind the last record of the one before. */
async function* rowsOf(context: Context, key: string, shown: Shown): AsyncGenerator<TakenRow[]> {
  let last: string | null = null;
  let first: string | null = null;
  for (;;) {
    const some: Result<Batch, Refusal> = await batch(context, key, shown, last);
    // A batch that is refused is thrown: ending the file there would make it look whole.
    if (!some.ok) throw new Error(`an export was refused half way: ${some.error.kind}`);
    const { records, places } = some.value;
    const [head] = records;
    if (head === undefined) return;
    // The record it went on from is gone for good, and it would begin anew: a file that ends here must not look whole.
    if (head.id === first) throw new Error('an export lost its place');
    first ??= head.id;
    yield records.map(({ number, cells }) => ({
      number,
      cells: places.map(({ column }) => cells[column.id] ?? null),
    }));
    last = records.at(-1)?.id ?? null;
  }
}

interface Batch {
  readonly table: NonNullable<ReturnType<typeof seenTable>>;
  readonly places: readonly Place[];
  readonly records: Awaited<ReturnType<typeof readRecords>>;
}

const batch = (
  context: Context,
  key: string,
  { find, where, sort, columns }: Shown,
  last: string | null,
): Promise<Result<Batch, Refusal>> =>
  asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    if (table === null) return fail(notFound('table'));
    const seen = seenTables(catalogue, context.person.id);
    const words = await wordsSeen(tx, catalogue, context, table, find);
    const which = whichRecords(catalogue, context, table, { words, where });
    if (!which.ok) return which;
    const sorts = placedSorts(table, seen, sort);
    if (!sorts.ok) return sorts;
    const places = shownPlaces(table, seen, columns);
    if (!places.ok) return places;
    const query: RecordQuery = {
      sorts: sorts.value,
      from: last === null ? null : { side: 'after', id: last },
      where: which.value.condition,
      most: AT_ONCE,
      also: places.value.filter((place) => !isOwn(place)),
    };
    return ok({
      table,
      places: places.value,
      records: await readRecords(tx, catalogue.tables, table, query),
    });
  });
