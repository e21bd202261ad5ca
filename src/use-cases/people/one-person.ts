import type { Chosen } from '../../contract/one-person';
import { mayAdminister } from '../../core/access/rules';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { PEOPLE } from '../../core/expression/type';
import { forbidden, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { personalColumns } from '../../core/personal/erased';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { wholeRecords, type WholeRecord } from '../../data/runtime/records/one-person';
import type { WholeSubmission } from '../../data/system/one-person';
import { asOwner } from '../../data/transaction';
import { localTime, type Context } from '../workspace/asking';
import { speak } from '../../core/wording/speak';

/** Whoever asks is asked for in the catalogue of the very transaction: somebody's rights may have ended a moment ago. */
export function asAdministrator<T>(
  { person }: Context,
  work: (tx: Tx, catalogue: Catalogue) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  return asOwner({ person: person.id }, (tx, catalogue) => {
    const now = catalogue.people.get(person.id);
    return now === undefined || now.ended || !mayAdminister(now)
      ? Promise.resolve(fail(forbidden('people')))
      : work(tx, catalogue);
  });
}

/** The tables that hold something about people themselves: not those of a source, nor the colleagues, who are on the page People. */
export const tablesWith = ({ tables }: Catalogue): Table[] =>
  [...tables.values()].filter(
    (table) => table.linked === null && table.id !== PEOPLE && personalColumns(table).length > 0,
  );

/** What was chosen of one table, or what stands below it as rows. */
export interface Part {
  readonly table: Table;
  readonly records: readonly WholeRecord[];
}

/** The chosen records with their rows, and those of the rows. */
export async function partsOf(
  tx: Tx,
  { tables }: Catalogue,
  { records }: Pick<Chosen, 'records'>,
): Promise<Result<Part[], Refusal>> {
  const parts: Part[] = [];
  for (const id of new Set(records.map(({ table }) => table))) {
    const table = tables.get(id);
    if (table === undefined || table.linked !== null || id === PEOPLE) return fail(notFound('table'));
    const ids = records.flatMap((one) => (one.table === id ? [one.id] : []));
    const found = await wholeRecords(tx, tables, table, 'id', ids);
    if (found.length < new Set(ids).size) return fail(notFound('record'));
    parts.push({ table, records: found });
  }
  return ok(await withRows(tx, tables, parts));
}

async function withRows(tx: Tx, tables: Catalogue['tables'], parts: Part[]): Promise<Part[]> {
  const below: Part[] = [];
  for (const { table, records } of parts)
    for (const rows of [...tables.values()].filter(({ parent }) => parent === table.id)) {
      const ids = records.map(({ id }) => id);
      const found = await wholeRecords(tx, tables, rows, 'parent_id', ids);
      if (found.length > 0) below.push({ table: rows, records: found });
    }
  return below.length === 0 ? parts : [...parts, ...(await withRows(tx, tables, below))];
}

export const dayOf = ({ now }: Context, { workspace }: Catalogue): string =>
  localTime(workspace, now).slice(0, 10);
export const idsOf = (parts: readonly Part[]): string[] =>
  parts.flatMap(({ records }) => records.map(({ id }) => id));
/** As the trail names them: what stood there is told nowhere. */
export const numbersOf = (parts: readonly Part[], begun: readonly WholeSubmission[]): string =>
  [
    ...parts.flatMap(({ records }) => records.map(({ number }) => number)),
    ...begun.map(({ number, design }) => number ?? speak`a draft of ${design.title}`),
  ].join(', ');
