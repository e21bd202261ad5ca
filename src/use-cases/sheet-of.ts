import type { Answers } from '../core/form/answers';
import { asRecords } from '../core/form/picked-record';
import { loadPatterns } from '../core/expression/functions/patterns';
import { Sheet } from '../core/form/sheet';
import type { Tx } from '../data/connect';
import { readTables } from '../data/runtime/tables';
import type { ReleaseRow } from '../data/system/forms';
import { readPerson } from '../data/system/people';
import { nowAsking } from '../data/transaction';
import { worldAt } from '../core/workspace';
import { localTime, type Context } from './asking';
import { compiled } from './open-sheet';
import { pickedRecords } from './pick-sources';

/** What somebody answered, by which release. */
export interface Filled {
  readonly release: ReleaseRow;
  readonly answers: Answers;
  readonly senderId: string;
}

/** A stored sheet, worked out on the server from what the database holds now. */
export async function sheetOf(
  tx: Tx,
  context: Context,
  { release, answers, senderId }: Filled,
): Promise<Sheet> {
  await loadPatterns();
  await nowAsking(tx, { release: release.id });
  const tables = await readTables(tx);
  const form = compiled(release.design, tables);
  return new Sheet(
    form,
    answers,
    asRecords(await pickedRecords(tx, form, tables, answers), tables),
    worldAt(localTime(context.now), await readPerson(tx, senderId)),
  );
}
