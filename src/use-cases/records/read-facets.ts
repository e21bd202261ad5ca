import { seenTable } from '../../core/catalogue/catalogue';
import type { FacetsData } from '../../contract/answers-from-server';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { facetColumns } from '../../core/record/facet-counts';
import type { Facet } from '../../core/record/facets';
import { filterables } from '../../core/record/filter';
import { countFacet, sampleOf } from '../../data/runtime/records/count-facets';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { seenTables, whichRecords, withoutPicksOf, wordsSeen } from './which-records';

/** Facets that are counted; of a wide table, those of its first columns. */
const MOST_FACETS = 8;

interface Asked {
  readonly find: string;
  readonly where: string;
  /** Whether to tell about how many there are, from a few of them, at once; of a table that is counted at once, nothing is told. */
  readonly about: boolean;
}

/** What the records that are asked for have in each column, each counted with all else that is chosen. */
export async function readFacets(
  context: Context,
  key: string,
  { find, where, about }: Asked,
): Promise<Result<FacetsData, Refusal>> {
  const { id } = context.person;
  return asPerson({ person: id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, id, key);
    if (table === null) return fail(notFound('table'));
    const tables = seenTables(catalogue, id);
    const words = await wordsSeen(tx, catalogue, context, table, find);
    const all = whichRecords(catalogue, context, table, { words, where });
    if (!all.ok) return all;
    const picked = all.value.filter?.picked ?? null;
    const known = new Map(filterables(table, tables).map((one) => [one.text, one]));
    const sample = about ? await sampleOf(tx, table) : null;
    if (about && sample === null) return ok({ facets: [], about });
    const facets: Facet[] = [];
    for (const { column, by } of facetColumns(table, tables).slice(0, MOST_FACETS)) {
      const of = known.get(by === null ? column.key : `${column.key}.${by.key}`);
      if (of === undefined) continue;
      const others = whichRecords(catalogue, context, table, {
        words,
        // Of several choices, records that have all that are chosen are shown: the others say how many have them as well.
        where: of.kind === 'choices' ? where : withoutPicksOf(picked, where, of.text),
      });
      if (!others.ok) return others;
      const counts = await countFacet(tx, {
        table,
        column,
        target: tables.get(column.target ?? '') ?? null,
        by,
        of,
        where: others.value.condition,
        sample,
      });
      if (counts.length > 0) facets.push({ of, counts });
    }
    return ok({ facets, about });
  });
}
