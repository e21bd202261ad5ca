import type { RecordsData, TableAtWork } from '../../contract/answers-from-server';
import type { Refusal } from '../../core/kernel/refusal';
import { ok, type Result } from '../../core/kernel/result';
import { openedQuery, type Asked, type ViewQuery } from '../../core/record/view';
import type { Picked } from '../../core/check/pick-text';
import { asPerson } from '../../data/transaction';
import { whichRecords } from './which-records';
import type { Context } from '../workspace/asking';
import { openRecords } from './open-records';
import { openTableAtWork } from './table-at-work';

interface OpenedTable {
  readonly work: TableAtWork;
  readonly query: ViewQuery;
  /** Null where the view asks for values first. */
  readonly records: RecordsData | null;
  /** The filter as it was picked; null where picking could not have made it, or there is none. */
  readonly picked: Picked | null;
}

/** A table as an address shows it: how it is looked at, and its first records. */
export async function openTable(
  context: Context,
  key: string,
  asked: Asked,
): Promise<Result<OpenedTable, Refusal>> {
  const work = await openTableAtWork(context, key);
  if (!work.ok) return work;
  const { views, look, places } = work.value;
  const known = new Set(['number', ...places.map(({ text }) => text)]);
  const { query, waits } = openedQuery(asked, { views, look, known });
  if (waits) {
    const picked = await asPerson({ person: context.person.id }, async (_, catalogue) => {
      const which = whichRecords(catalogue, context, work.value.table, { words: null, where: query.where });
      return which.ok ? ok(which.value.filter?.picked ?? null) : which;
    });
    return picked.ok ? ok({ work: work.value, query, records: null, picked: picked.value }) : picked;
  }
  const records = await openRecords(context, key, query);
  if (!records.ok) return records;
  return ok({ work: work.value, query, records: records.value, picked: records.value.picked });
}
