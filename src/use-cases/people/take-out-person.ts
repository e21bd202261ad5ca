import type { Chosen, TakenOut } from '../../contract/one-person';
import type { Refusal } from '../../core/kernel/refusal';
import { ok, type Result } from '../../core/kernel/result';
import { earlierOf } from '../../data/runtime/records/one-person';
import { filesOf, notePersonal, submissionsOf, wholeSubmissions } from '../../data/system/one-person';
import type { Context } from '../workspace/asking';
import { asAdministrator, dayOf, idsOf, numbersOf, partsOf } from './one-person';
import { asFile } from './one-person-file';

/** All that is kept about the chosen, as a file: as it is, as it was, and as it was sent. */
export function takeOutPerson(context: Context, chosen: Chosen): Promise<Result<TakenOut, Refusal>> {
  return asAdministrator(context, async (tx, catalogue) => {
    const parts = await partsOf(tx, catalogue, chosen);
    if (!parts.ok) return parts;
    const records = idsOf(parts.value);
    const sent = [...new Set([...chosen.submissions, ...(await submissionsOf(tx, records))])];
    const submissions = await wholeSubmissions(tx, sent);
    const earlier = await earlierOf(tx, records);
    const files = await filesOf(tx, records, sent);
    await notePersonal(
      tx,
      'personal-data',
      'made',
      numbersOf(
        parts.value,
        submissions.filter(({ isUnkept }) => isUnkept),
      ),
    );
    const { workspace } = catalogue;
    return ok({
      name: `data-about-a-person-${dayOf(context, catalogue)}.json`,
      text: asFile({
        workspace: workspace.name,
        made: context.now.toISOString(),
        parts: parts.value,
        earlier,
        submissions,
        files,
      }),
    });
  });
}
