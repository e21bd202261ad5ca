import type { FormsData, WorkbenchData } from '../contract/answers-from-server';
import { mayDesignForm } from '../core/access/rules';
import { ok, type Result } from '../core/kernel/result';
import type { Refusal } from '../core/kernel/refusal';
import type { Table } from '../core/table/model';
import type { Tx } from '../data/connect';
import { tablesFor, tablesOfForm } from '../data/runtime/table-rights';
import { readTables } from '../data/runtime/tables';
import { readLists } from '../data/system/choice-lists';
import { listForms, listReleases, liveRelease } from '../data/system/forms';
import { readPeople } from '../data/system/people';
import { asPerson } from '../data/transaction';
import { designer, type Context } from './asking';
import { designedForm } from './edit-form';

/** All that designing a form needs: its draft, its releases, the tables it may pick from, and the people it may ask. */
export async function openWorkbench(context: Context, id: string): Promise<Result<WorkbenchData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const form = await designedForm(tx, context, id);
    if (!form.ok) return form;
    const releases = await listReleases(tx, id);
    const people = await readPeople(tx);
    return ok({
      id,
      key: form.value.key,
      design: form.value.design,
      version: form.value.version,
      updatedAt: form.value.updatedAt.toISOString(),
      releases: releases.map((one) => ({
        number: one.number,
        at: one.releasedAt.toISOString(),
        by: one.by,
        edited: one.formVersion !== form.value.version,
      })),
      released: (await liveRelease(tx, id))?.design ?? null,
      tables: await offeredTables(tx, id),
      lists: [...(await readLists(tx)).values()],
      people: people.map(({ id, name, place }) => ({ id, name, place })),
    });
  });
}

/** The tables a designer may build on: those they see or may pick from, and those the form is released into. What a draft names counts for nothing. */
async function offeredTables(tx: Tx, form: string): Promise<Table[]> {
  const offered = await tablesFor(tx, 'see', 'pick');
  const own = new Set(await tablesOfForm(tx, form));
  return [...(await readTables(tx)).values()].filter(({ id }) => offered.has(id) || own.has(id));
}

export async function openForms(context: Context): Promise<Result<FormsData, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx) =>
    ok({
      forms: (await listForms(tx)).map((form) => ({
        id: form.id,
        title: form.title,
        area: form.area,
        owner: form.ownerName,
        mine: mayDesignForm(who.value, form.ownerId),
        release: form.release,
        edited: form.release !== null && form.releasedVersion !== form.version,
        updatedAt: form.updatedAt.toISOString(),
      })),
    }),
  );
}
