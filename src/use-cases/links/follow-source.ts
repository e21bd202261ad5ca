import { may } from '../../core/catalogue/catalogue';
import { issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { following } from '../../core/link/follow';
import { foundName } from '../../core/link/found-table';
import { sourceFaultSentence } from '../../core/wording/source-sentence';
import { relink } from '../../data/runtime/links/link-tables';
import { applyChanges, oneTableChangeAtATime } from '../../data/runtime/tables/tables';
import { askRefreshJob, linksOf } from '../../data/system/links';
import { asOwner } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';
import { foundTables, knownSource, linkedThere } from './look-at-source';

/**
 * Takes up what a linked table's source has become: columns it gained come here, what it lost keeps its last
 * values, rights are those of now. The source is looked at anew, so that what the screen showed a while ago
 * is not what counts. Repeated, it changes nothing.
 */
export async function followSource(
  context: Context,
  id: string,
  input: { table: string },
): Promise<Result<{ key: string }, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  const known = await knownSource(context, id);
  if (!known.ok) return known;
  const { source } = known.value;
  const looked = await foundTables(source);
  if (!looked.ok)
    return fail(
      invalid(
        issue('source-failed', ['source'], { source: source.label, why: sourceFaultSentence(looked.error) }),
      ),
    );
  const found = looked.value.find((table) => foundName(table) === input.table);
  if (found === undefined) return fail(notFound('table'));
  return asOwner({ person: who.value.id }, async (tx) => {
    const catalogue = await oneTableChangeAtATime(tx);
    const { tables } = catalogue;
    const linked = linkedThere({ ...known.value, links: await linksOf(tx, id), tables });
    const own = linked.find(({ mapping }) => foundName(mapping) === input.table);
    if (own === undefined || !may(catalogue, context.person.id, 'see', own.table.id))
      return fail(notFound('table'));
    if (!may(catalogue, context.person.id, 'design', own.table.id)) return fail(forbidden('design-table'));
    const change = following(found, own, linked, [...tables.values()]);
    if (change === null) return ok({ key: own.table.key });
    if (change.keyLost)
      return fail(
        invalid(
          issue('not-linkable', ['table'], {
            table: input.table,
            why: 'What tells its records apart is not there any more',
          }),
        ),
      );
    await applyChanges(tx, tables, change.changes, []);
    await relink(tx, source, own.table.id, change.mapping);
    await askRefreshJob(tx, own.table.id);
    return ok({ key: own.table.key });
  });
}
