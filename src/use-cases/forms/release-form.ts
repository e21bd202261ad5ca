import { may, type Catalogue } from '../../core/catalogue/catalogue';
import { seeNewTables } from '../../core/access/rules';
import { designIssues } from '../../core/form/design-issues';
import { besideUses, writesOf } from '../../core/form/further-writes';
import type { FormDesign } from '../../core/form/design';
import { issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import { invalid, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { tablesOf } from '../../core/storage/tables-of';
import type { TableChange } from '../../core/table/change';
import { planTables } from '../../core/table/plan';
import type { Tx } from '../../data/connect';
import { askWordsIndexes } from '../../data/runtime/records/find-records';
import { applyChanges, oneTableChangeAtATime } from '../../data/runtime/tables/tables';
import { insertRelease, listReleases, type FormRow, type ReleaseUse } from '../../data/system/forms';
import { askToWrite, grantFilling, noteAllowed, type WritesTo } from '../../data/runtime/tables/table-rights';
import { asOwner, asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { designedForm } from './edit-form';
import { lookupsOf } from '../submissions/pick-sources';
import { rightsOfRelease } from './rights-of-release';

/**
 * Makes the draft the live release: its tables are made or changed in the same transaction, or nothing
 * happens at all. A first release says who fills it, unless that was said before.
 */
export async function releaseForm(
  context: Context,
  id: string,
  input: {
    version: number;
    allow?: readonly string[];
    fill?: 'everybody' | undefined;
    note?: string | undefined;
  },
): Promise<Result<{ number: number }, Refusal>> {
  const ask: WritesTo[] = [];
  const done = await asOwner<{ number: number }>({ person: context.person.id }, async (tx) => {
    const catalogue = await oneTableChangeAtATime(tx);
    const form = await designedForm(tx, catalogue, context, id, true);
    if (!form.ok) return form;
    if (form.value.version !== input.version)
      return fail(stale('design-changed', { version: form.value.version }));
    // Nobody finds themselves asked to fill a form, or kept from it, because nothing was said.
    const isSaid = catalogue.grants.some((grant) => grant.formId === id && grant.action === 'fill');
    if (!isSaid && input.fill === undefined) return fail(invalid(issue('nobody-fills', ['fill'])));
    const planned = plan(form.value.design, catalogue);
    if (!planned.ok) return planned;
    const rights = await rightsOfRelease(tx, catalogue, {
      formId: id,
      person: context.person.id,
      design: form.value.design,
      allow: input.allow ?? [],
    });
    ask.push(...rights.ask);
    if (rights.issues.length > 0) return fail(invalid(...rights.issues));
    const releases = await listReleases(tx, id);
    if (releases[0]?.formVersion === input.version) return ok({ number: releases[0].number });
    const number = (releases[0]?.number ?? 0) + 1;
    await makeRelease(tx, catalogue, context, {
      form: form.value,
      plan: planned.value,
      number,
      note: input.note ?? '',
    });
    if (!isSaid) await grantFilling(tx, id);
    await indexLookups(tx, catalogue, context, form.value.design);
    return ok({ number });
  });
  // What was refused for want of somebody's word is asked for, so that they find it.
  if (!done.ok && ask.length > 0) await askDesigners(context, id, ask);
  return done;
}

interface Making {
  readonly form: FormRow;
  readonly plan: readonly TableChange[];
  readonly number: number;
  readonly note: string;
}

/** The tables of a draft, the release, and the right to write: as the owner role. Gives the release's id. */
export async function makeRelease(
  tx: Tx,
  { tables }: Catalogue,
  { person, now }: Context,
  { form: { id: formId, design, version }, plan: changes, number, note }: Making,
): Promise<string> {
  await applyChanges(tx, tables, changes, seeNewTables);
  const id = newUuid(now.getTime());
  await insertRelease(
    tx,
    { id, formId, number, design, releasedBy: person.id, formVersion: version, note },
    uses(design),
  );
  await noteAllowed(
    tx,
    formId,
    [...writesOf(design)].map(([table, of]) => ({ table, uses: of })),
  );
  return id;
}

/** Words are looked for in large tables by an index, which is made before the first colleague searches. */
async function indexLookups(
  tx: Tx,
  catalogue: Catalogue,
  { person }: Context,
  design: FormDesign,
): Promise<void> {
  const picked = [...new Set(lookupsOf(design).map(({ question }) => question.table))]
    .filter((id) => may(catalogue, person.id, 'see', id))
    .flatMap((id) => catalogue.tables.get(id) ?? []);
  await askWordsIndexes(tx, picked);
}

const askDesigners = (context: Context, form: string, asks: readonly WritesTo[]) =>
  asPerson({ person: context.person.id }, async (tx) => {
    for (const one of asks) await askToWrite(tx, one, form);
    return ok(null);
  });

function plan(
  design: FormDesign,
  { tables: there, people, groups }: Catalogue,
): Result<TableChange[], Refusal> {
  const issues = designIssues(design, there, new Set([...people.keys(), ...groups.keys()]));
  const changes = planTables([...there.values()], tablesOf(design));
  const all = changes.ok ? issues : [...issues, ...changes.error];
  if (all.length > 0) return fail(invalid(...all));
  return changes.ok ? ok(changes.value) : fail(invalid(...changes.error));
}

function uses(design: FormDesign): ReleaseUse[] {
  const picked = new Set(lookupsOf(design).map(({ question }) => question.table));
  return [
    ...tablesOf(design).map(({ id }) => ({ tableId: id, use: 'write' as const, columns: [] })),
    ...[...picked].map((tableId) => ({ tableId, use: 'pick' as const, columns: [] })),
    ...besideUses(design).map(({ table, use, columns }) => ({ tableId: table, use, columns: [...columns] })),
  ];
}
