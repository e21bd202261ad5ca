import { randomBytes } from 'node:crypto';
import type {
  AddressData,
  AddressInput,
  DeliveriesData,
  EventsData,
  KeptAddress,
  SeenData,
} from '../../contract/events';
import { mayAdminister } from '../../core/access/rules';
import { peopleHere, type Catalogue } from '../../core/catalogue/catalogue';
import { issue, type Issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import type { Tx } from '../../data/connect';
import { tellNow } from '../../data/live';
import { sealed } from '../../data/secret';
import {
  deliveriesTo,
  dropAddress,
  putAddress,
  putInOrder,
  readAddress,
  readAddresses,
  resumeAddress,
  stopAddress,
  type AddressRow,
} from '../../data/system/events';
import { liveForms } from '../../data/system/forms';
import { asPerson } from '../../data/transaction';
import { placeOf } from '../../outside/send-event';
import type { Context } from '../workspace/asking';
import { allSeen } from './what-happened';

/** What became of the latest that is shown. */
const SHOWN = 50;

/** As an administrator, who alone has anybody outside told. */
function administering<T>(
  { person }: Context,
  work: (tx: Tx, catalogue: Catalogue) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  if (!mayAdminister(person)) return Promise.resolve(fail(forbidden('people')));
  return asPerson({ person: person.id }, work);
}

/** All addresses that are told, and what there is to name in another. */
export function openEvents(context: Context): Promise<Result<EventsData, Refusal>> {
  return administering(context, async (tx, catalogue) => {
    const { last } = await putInOrder(tx);
    return ok({
      addresses: (await readAddresses(tx)).map((row) => shown(catalogue, row, last)),
      me: context.person.id,
      people: peopleHere(catalogue).map(({ id, name, place }) => ({ id, name, place })),
      tables: [...catalogue.tables.values()].map(({ id, label }) => ({ id, label })),
      forms: (await liveForms(tx, catalogue))
        .map(({ formId, design }) => ({ id: formId, label: design.title }))
        .sort((a, b) => a.label.localeCompare(b.label)),
    });
  });
}

function shown({ people }: Catalogue, row: AddressRow, last: number): AddressData {
  const { id, label, url, personId, tableIds, formIds, kinds, version, madeById, madeAt, position } = row;
  return {
    id,
    label,
    url,
    person: personId,
    tables: tableIds,
    forms: formIds,
    kinds,
    version,
    madeBy: people.get(madeById)?.name ?? '',
    madeAt: madeAt.toISOString(),
    state: row.stoppedAt !== null ? 'stopped' : row.tries > 0 ? 'failing' : 'on',
    because: row.stoppedBecause,
    failingSince: row.failingSince?.toISOString() ?? null,
    nextAt: row.nextAt?.toISOString() ?? null,
    behind: Math.max(0, last - position),
  };
}

/** What somebody sees, and so the most that an address is told as they see it. */
export const seenBy = (
  context: Context,
  { person }: { readonly person: string },
): Promise<Result<SeenData, Refusal>> =>
  administering(context, async (_, catalogue) => {
    const { tables, forms } = allSeen(catalogue, person);
    return ok({ tables, forms });
  });

/** Makes an address, whose secret is told this once; or changes one. It is told what happens from now on. */
export async function keepAddress(
  context: Context,
  id: string,
  input: AddressInput,
): Promise<Result<KeptAddress, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  const wrong = await placeIssue(input.url);
  return administering(context, async (tx, catalogue) => {
    const issues = [...(wrong === null ? [] : [wrong]), ...inputIssues(catalogue, input)];
    if (issues.length > 0) return fail(invalid(...issues));
    const isNew = input.version === 0;
    if (isNew && (await readAddresses(tx)).length >= limits.eventAddresses)
      return fail(invalid(issue('event-addresses', [], { most: limits.eventAddresses })));
    const secret = isNew ? `whsec_${randomBytes(32).toString('base64')}` : null;
    const said = { ...input, secret: secret === null ? null : sealed(secret, id) };
    if (await putAddress(tx, id, said, context.now)) return ok({ secret });
    return (await readAddress(tx, id)) === null ? fail(notFound('page')) : fail(stale('address-changed'));
  });
}

/** Whether anything may be told there: asked before it is kept, and again each time it is told. */
async function placeIssue(url: string): Promise<Issue | null> {
  const place = await placeOf(url);
  switch (place) {
    case 'fine':
      return null;
    case 'no-address':
      return issue('event-url', ['url']);
    case 'plain':
      return issue('event-url-plain', ['url']);
    case 'inside':
      return issue('event-url-inside', ['url']);
    case 'nowhere':
      return issue('event-url-nowhere', ['url']);
  }
}

function inputIssues(catalogue: Catalogue, { person, tables, forms, kinds }: AddressInput): Issue[] {
  if (catalogue.people.get(person)?.ended !== false) return [issue('not-a-colleague', ['person'])];
  const seen = allSeen(catalogue, person);
  const beyond = [
    ...tables.filter((id) => !seen.tables.includes(id)).map((id) => catalogue.tables.get(id)?.label ?? ''),
    ...forms.filter((id) => !seen.forms.includes(id)).map((id) => catalogue.forms.get(id)?.key ?? ''),
  ];
  return [
    ...(tables.length + forms.length === 0 || kinds.length === 0
      ? [issue('events-nothing', ['tables'])]
      : []),
    ...beyond.slice(0, 1).map((what) => issue('events-beyond', ['tables'], { what })),
  ];
}

/** Tells it nothing more, until somebody lets it go on. */
export const haltAddress = (context: Context, id: string): Promise<Result<null, Refusal>> =>
  settled(context, (tx) => stopAddress(tx, id, context.now));

/** Lets it go on, at once: from where it stands, or once more from an event on. */
export const letGoOn = (
  context: Context,
  id: string,
  { from }: { readonly from: number | null },
): Promise<Result<null, Refusal>> =>
  settled(context, async (tx) => {
    // Whoever tells it hears of it at once.
    await tellNow(tx, 'events', []);
    return resumeAddress(tx, id, from);
  });

export const removeAddress = (context: Context, id: string): Promise<Result<null, Refusal>> =>
  settled(context, (tx) => dropAddress(tx, id));

const settled = (context: Context, work: (tx: Tx) => Promise<boolean>): Promise<Result<null, Refusal>> =>
  administering(context, async (tx) => ((await work(tx)) ? ok(null) : fail(notFound('page'))));

/** What became of the latest that an address was told. */
export const readDeliveries = (context: Context, id: string): Promise<Result<DeliveriesData, Refusal>> =>
  administering(context, async (tx) =>
    (await readAddress(tx, id)) === null
      ? fail(notFound('page'))
      : ok({
          deliveries: (await deliveriesTo(tx, id, SHOWN)).map(({ id: _, addressId: __, at, ...row }) => ({
            ...row,
            at: at.toISOString(),
          })),
        }),
  );
