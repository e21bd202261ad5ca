import { may, seenTable, tablesFor } from '../../core/catalogue/catalogue';
import type { LikelyMatches } from '../../contract/table-changes';
import { forbidden, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { comparedPairs, likelyMatches, type PairCount } from '../../core/table/likely-matches';
import type { Column, Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { tableSizes } from '../../data/runtime/records/record-counts';
import { countShared, LOOKED_THROUGH, sampleValues } from '../../data/runtime/tables/shared-values';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { countOf } from './read-tables';

/** Records of all tables that are looked through for one question: about three seconds' worth. The smallest tables come first. */
const MOST_RECORDS = 2_000_000;

/** Tables whose records may belong with those of this one because they hold the same values, among those that whoever asks may see. */
export function findMatches(context: Context, key: string): Promise<Result<LikelyMatches, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, key);
    if (table === null) return fail(notFound('table'));
    if (!may(catalogue, person, 'design', table.id)) return fail(forbidden('design'));
    const others = tablesFor(catalogue, person, 'see')
      .map((other) => ({ other, pairs: comparedPairs(table, other) }))
      .filter(({ pairs }) => pairs.length > 0);
    const counts = await tableSizes(tx, [table, ...others.map(({ other }) => other)]);
    const sized = others
      .map((one) => ({ ...one, records: countOf(counts, one.other).records }))
      .sort((a, b) => a.records - b.records);
    const found: { other: string; pairs: PairCount[] }[] = [];
    const left: string[] = [];
    const own = countOf(counts, table).records;
    const samples = await sampleValues(
      tx,
      table,
      columnsOf(others.flatMap(({ pairs }) => pairs.map(({ from }) => from))),
    );
    let budget = MOST_RECORDS;
    for (const { other, pairs, records } of sized) {
      const looked = [records, own].filter((many) => many <= LOOKED_THROUGH);
      budget -= looked.reduce((sum, many) => sum + many, 0);
      if (looked.length === 0 || budget < 0) {
        left.push(other.label);
        continue;
      }
      const there = records <= LOOKED_THROUGH ? await countShared(tx, other, pairs, samples, false) : [];
      const here = own <= LOOKED_THROUGH ? await sharedHere(tx, table, other, pairs) : [];
      found.push({ other: other.id, pairs: [...there, ...here] });
    }
    return ok({ matches: likelyMatches(found), left });
  });
}

/** Where the other table is much the larger, its values are looked for in this one. */
async function sharedHere(
  tx: Tx,
  table: Table,
  other: Table,
  pairs: ReturnType<typeof comparedPairs>,
): Promise<PairCount[]> {
  const samples = await sampleValues(tx, other, columnsOf(pairs.map(({ to }) => to)));
  return countShared(tx, table, pairs, samples, true);
}

const columnsOf = (columns: readonly Column[]): Column[] => [
  ...new Map(columns.map((column) => [column.id, column])).values(),
];
