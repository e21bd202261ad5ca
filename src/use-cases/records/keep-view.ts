import { mayDesign } from '../../core/access/rules';
import { may, peopleHere, seenTable, type Catalogue } from '../../core/catalogue/catalogue';
import { issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { PersonName } from '../../contract/sheet-from-server';
import { readFilter } from '../../core/record/filter';
import { filterScope } from '../../core/record/table-scope';
import type { KeptView, Look, OfferedView, View } from '../../core/record/view';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { deleteView, insertView, keepLook as keep, readViews, updateView } from '../../data/system/views';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { seenTables } from './which-records';

/** How whoever asks has the columns of a table, on every device. */
export const keepLook = (context: Context, key: string, look: Look): Promise<Result<null, Refusal>> =>
  ofTable(context, key, async (tx, _, table) => {
    await keep(tx, context.person.id, table.id, look);
    return ok(null);
  });

/** The views of a table, and those who see it besides whoever asks: for whom a view can be kept. */
export const viewsOf = (
  context: Context,
  key: string,
): Promise<Result<{ people: PersonName[]; views: OfferedView[] }, Refusal>> =>
  ofTable(context, key, async (tx, catalogue, table) =>
    ok({
      people: peopleHere(catalogue).flatMap(({ id, name, place }) =>
        id !== context.person.id && may(catalogue, id, 'see', table.id) ? [{ id, name, place }] : [],
      ),
      views: await offeredViews(tx, catalogue, context, table),
    }),
  );

/** Makes a view, or changes the one of this id; gives the views there are then. */
export const keepView = (
  context: Context,
  key: string,
  id: string,
  { version, view }: { readonly version: number | null; readonly view: View },
): Promise<Result<{ views: OfferedView[] }, Refusal>> =>
  ofTable(context, key, async (tx, catalogue, table) => {
    const designs = designsIt(catalogue, context, table);
    if (view.isFirst && !designs) return fail(forbidden('design-table'));
    const unknown = [
      ...view.for.people.filter((one) => !peopleHere(catalogue).some((known) => known.id === one)),
      ...view.for.groups.filter((one) => !catalogue.groups.has(one)),
    ];
    if (unknown.length > 0) return fail(invalid(issue('malformed', ['for'])));
    const known = (await readViews(tx, table.id)).find((one) => one.id === id);
    if (known === undefined) {
      if (version !== null) return fail(notFound('view'));
      await insertView(tx, table.id, id, context.person.id, view);
    } else {
      if (!maySay(designs, context, known)) return fail(forbidden('own-only'));
      if (version === null || !(await updateView(tx, table.id, id, version, view)))
        return fail(stale('view-changed'));
    }
    return ok({ views: await offeredViews(tx, catalogue, context, table) });
  });

export const removeView = (
  context: Context,
  key: string,
  id: string,
): Promise<Result<{ views: OfferedView[] }, Refusal>> =>
  ofTable(context, key, async (tx, catalogue, table) => {
    const known = (await readViews(tx, table.id)).find((one) => one.id === id);
    if (known === undefined) return fail(notFound('view'));
    if (!maySay(designsIt(catalogue, context, table), context, known)) return fail(forbidden('own-only'));
    await deleteView(tx, id);
    return ok({ views: await offeredViews(tx, catalogue, context, table) });
  });

/** The views of a table for whoever asks. */
export async function offeredViews(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  table: Table,
): Promise<OfferedView[]> {
  const designs = designsIt(catalogue, context, table);
  const views = await readViews(tx, table.id);
  const scope = filterScope(table, seenTables(catalogue, context.person.id));
  // One that asks for what somebody does not see shows them nothing; who made it may mend it.
  const isFor = (view: KeptView): boolean =>
    view.design.where.trim() === '' || readFilter(view.design.where, table, scope).ok;
  return views
    .map((view) => ({ ...view, mayChange: maySay(designs, context, view) }))
    .filter((view) => view.mayChange || isFor(view));
}

const designsIt = (catalogue: Catalogue, { person }: Context, table: Table): boolean =>
  mayDesign(person) && may(catalogue, person.id, 'design', table.id);
const maySay = (designs: boolean, { person }: Context, view: KeptView): boolean =>
  designs || view.ownerId === person.id;

function ofTable<T>(
  context: Context,
  key: string,
  work: (tx: Tx, catalogue: Catalogue, table: Table) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, key);
    return table === null ? fail(notFound('table')) : work(tx, catalogue, table);
  });
}
