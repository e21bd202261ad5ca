import { hiddenColumns, type Catalogue } from '../../core/catalogue/catalogue';
import type { CompiledForm } from '../../core/form/compile-form';
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
  /** Set where it is only looked at what would be: nothing is worked out then of what whoever asks does not see. */
  readonly asSeen?: true;
}

/** A stored sheet, calculated on the server from what the database holds now. */
export async function sheetOf(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  { id, release, answers, senderId, use, asSeen }: Filled,
): Promise<Sheet> {
  await loadPatterns();
  await nowAsking(tx, { release: release.id, submission: id });
  const { tables, workspace } = catalogue;
  const form = compiled(catalogue, release, use);
  // What is sent is held against all that is there, also of what its sender does not see.
  const look = () => pickedRecords(tx, form, tables, answers);
  const picked = asSeen ? await look() : await withAllInHand(tx, look);
  const sender = catalogue.people.get(senderId) ?? null;
  const untold = untoldTo(catalogue, form, [context.person.id, senderId]);
  const now = localTime(workspace, context.now);
  const made = (how: ConstructorParameters<typeof Sheet>[4]) =>
    new Sheet(form, answers, asRecords(picked, tables), worldAt(workspace, now, sender), { ...how, untold });
  const sheet = made({ steps: QUICK_STEPS });
  if (!sheet.wasGivenUp) return sheet;
  const { design } = form;
  return made({ worked: await workedBeside({ design, tables, answers, picked, workspace, now, sender }) });
}

/** What a form reads that one of these people does not see, as `table column`. */
function untoldTo(catalogue: Catalogue, form: CompiledForm, people: readonly string[]): ReadonlySet<string> {
  return new Set(
    [...form.columnsRead.keys()].flatMap((id) => {
      const table = catalogue.tables.get(id);
      const hidden =
        table === undefined ? [] : people.flatMap((person) => hiddenColumns(catalogue, person, table));
      return hidden.map((column) => `${id} ${column.id}`);
    }),
  );
}
