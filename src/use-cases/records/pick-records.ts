import { seenTable } from '../../core/catalogue/catalogue';
import type { NamedRecords, PickOptions } from '../../contract/record-edits';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { keptColumns, type Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { recordsNamed, type PickFrom } from '../../data/runtime/records/pick-records';
import { searchPicks } from '../../data/runtime/records/search-picks';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';

/** Options shown at once; more are found by typing on. */
const MOST_OPTIONS = 20;
/** Columns shown beside the title, by which records of one title are told apart. */
const MOST_SHOWN = 3;

/** Records of a table that contain every word, for referring to one of them: to those who see it. */
export const pickRecords = (
  context: Context,
  key: string,
  search: string,
): Promise<Result<PickOptions, Refusal>> =>
  picking(context, key, (tx, from) => searchPicks(tx, from, { search, where: null, most: MOST_OPTIONS }));

/** The records that texts name, as they are pasted where a record is referred to. */
export const nameRecords = (
  context: Context,
  key: string,
  texts: readonly string[],
): Promise<Result<NamedRecords, Refusal>> =>
  picking(context, key, async (tx, from) => {
    const found = await recordsNamed(tx, from, texts);
    return {
      records: texts.map((text) => {
        const [one, another] = found.get(text.trim().toLowerCase()) ?? [];
        return another === undefined ? (one ?? null) : null;
      }),
    };
  });

function picking<T>(
  context: Context,
  key: string,
  look: (tx: Tx, from: PickFrom) => Promise<T>,
): Promise<Result<T, Refusal>> {
  const { id } = context.person;
  return asPerson({ person: id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, id, key);
    return table === null ? fail(notFound('table')) : ok(await look(tx, fromTable(table)));
  });
}

const fromTable = (table: Table): PickFrom => ({
  table,
  show: keptColumns(table)
    .filter(({ id, kind }) => !table.title.includes(id) && kind !== 'reference' && kind !== 'yes-no')
    .slice(0, MOST_SHOWN),
  read: [],
});
