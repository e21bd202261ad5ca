import type { Catalogue } from '../../core/catalogue/catalogue';
import type { Answers } from '../../core/form/answers';
import type { Use } from '../../core/form/design';
import { asRecords } from '../../core/form/picked-record';
import { loadPatterns } from '../../core/expression/functions/patterns';
import { Sheet } from '../../core/form/sheet';
import type { Tx } from '../../data/connect';
import { withAllInHand } from '../../data/runtime/records/in-hand';
import type { ReleaseRow } from '../../data/system/forms';
import { nowAsking } from '../../data/transaction';
import { worldAt } from '../../core/workspace';
import { localTime, type Context } from '../workspace/asking';
import { QUICK_STEPS, workedBeside } from './heavy-sheet';
import { compiled } from './compiled-release';
import { pickedRecords } from './pick-sources';

/** What somebody answered, by which release, in which submission. */
export interface Filled {
  readonly id: string;
  readonly release: ReleaseRow;
  readonly answers: Answers;
  readonly senderId: string;
  readonly use: Use;
}

/** A stored sheet, calculated on the server from what the database holds now. */
export async function sheetOf(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  { id, release, answers, senderId, use }: Filled,
): Promise<Sheet> {
  await loadPatterns();
  await nowAsking(tx, { release: release.id, submission: id });
  const { tables, workspace } = catalogue;
  const form = compiled(catalogue, release, use);
  // What is sent is held against all that is there, also of what its sender does not see.
  const picked = await withAllInHand(tx, () => pickedRecords(tx, form, tables, answers));
  const sender = catalogue.people.get(senderId) ?? null;
  const now = localTime(workspace, context.now);
  const made = (how: ConstructorParameters<typeof Sheet>[4]) =>
    new Sheet(form, answers, asRecords(picked, tables), worldAt(workspace, now, sender), how);
  const sheet = made({ steps: QUICK_STEPS });
  if (!sheet.wasGivenUp) return sheet;
  const { design } = form;
  return made({ worked: await workedBeside({ design, tables, answers, picked, workspace, now, sender }) });
}
