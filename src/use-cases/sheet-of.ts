import type { Answers } from '../core/form/answers';
import { asRecords } from '../core/form/picked-record';
import { loadPatterns } from '../core/expression/functions/patterns';
import { Sheet } from '../core/form/sheet';
import type { Tx } from '../data/connect';
import { readTables } from '../data/runtime/tables';
import type { ReleaseRow } from '../data/system/forms';
import { nowAsking } from '../data/transaction';
import { worldAt } from '../core/workspace';
import { localTime, type Context } from './asking';
import { compiled } from './open-sheet';
import { pickedRecords } from './pick-sources';

/** A stored sheet, worked out on the server from what the database holds now. */
export async function sheetOf(tx: Tx, context: Context, release: ReleaseRow, answers: Answers): Promise<Sheet> {
  await loadPatterns();
  await nowAsking(tx, { release: release.id });
  const tables = await readTables(tx);
  const form = compiled(release.design, tables);
  return new Sheet(form, answers, asRecords(await pickedRecords(tx, form, tables, answers), tables), worldAt(localTime(context.now)));
}
