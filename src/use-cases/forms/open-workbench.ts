import { idsFor, mayForm, peopleHere, type Catalogue } from '../../core/catalogue/catalogue';
import type { FormsData, WorkbenchData } from '../../contract/answers-from-server';
import { alwaysOpen } from '../../core/form/opening';
import { ok, type Result } from '../../core/kernel/result';
import type { Refusal } from '../../core/kernel/refusal';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { tablesOfForm } from '../../data/runtime/tables/table-rights';
import { listForms, listReleases, liveRelease, underWay } from '../../data/system/forms';
import { asPerson } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';
import { designedForm } from './edit-form';

/** All that designing a form needs: its draft, its releases, the tables it may pick from, and the people it may ask. */
export async function openWorkbench(context: Context, id: string): Promise<Result<WorkbenchData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = await designedForm(tx, catalogue, context, id);
    if (!form.ok) return form;
    const releases = await listReleases(tx, id);
    return ok({
      currency: catalogue.workspace.currency,
      id,
      me: context.person.id,
      key: form.value.key,
      design: form.value.design,
      version: form.value.version,
      updatedAt: form.value.updatedAt.toISOString(),
      releases: releases.map((one) => ({
        number: one.number,
        at: one.releasedAt.toISOString(),
        by: one.by,
        edited: one.formVersion !== form.value.version,
        note: one.note,
      })),
      underWay: await underWay(tx, id),
      released: (await liveRelease(tx, catalogue, id))?.design ?? null,
      opening: form.value.opening ?? alwaysOpen,
      tables: await offeredTables(tx, catalogue, context.person.id, id),
      lists: [...catalogue.lists.values()],
      people: peopleHere(catalogue).map(({ id, name, place, manager }) => ({ id, name, place, manager })),
      groups: [...catalogue.groups.values()],
    });
  });
}

/**
 * The tables a designer may build on: those they see or may pick from, and those the form is released into.
 * What a draft names counts for nothing.
 */
async function offeredTables(tx: Tx, catalogue: Catalogue, person: string, form: string): Promise<Table[]> {
  const offered = idsFor(catalogue, person, 'see', 'pick');
  const own = new Set(await tablesOfForm(tx, form));
  return [...catalogue.tables.values()].filter(({ id }) => offered.has(id) || own.has(id));
}

export async function openForms(context: Context): Promise<Result<FormsData, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) =>
    ok({
      forms: (await listForms(tx)).map((form) => ({
        id: form.id,
        title: form.title,
        area: form.area,
        owner: form.ownerName,
        mine: mayForm(catalogue, who.value.id, 'design', form.id),
        release: form.release,
        edited: form.release !== null && form.releasedVersion !== form.version,
        updatedAt: form.updatedAt.toISOString(),
      })),
    }),
  );
}
