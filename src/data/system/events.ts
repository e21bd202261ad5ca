import { and, asc, desc, eq, getTableColumns, gt, inArray, or, sql, type SQL } from 'drizzle-orm';
import type { Delivered, Next } from '../../core/event/delivery';
import type { EventKind, NotedEvent } from '../../core/event/event';
import type { Tx } from '../connect';
import { event, eventAddress, eventCounter, eventDelivery, submission, submissionEvent } from './schema';
import { seenHistory as history } from './seen-history';

/** Which events are meant: about these tables and forms, of these kinds. */
export interface EventsWanted {
  readonly tables: readonly string[];
  readonly forms: readonly string[];
  readonly kinds: readonly EventKind[];
}

/** The last place that was given, and up to which place events are gone by now. */
export interface Places {
  readonly last: number;
  readonly gone: number;
}

/**
 * Gives what can be seen by now its place, and says which places there are. In a transaction of its own, for
 * places are seen when it ends.
 */
export async function putInOrder(tx: Tx): Promise<Places> {
  // What is left after a while is placed by the next who asks.
  for (let i = 0; i < 10; i++) {
    const { rows } = await tx.execute<{ many: number }>(sql`SELECT slate.put_in_order() AS many`);
    if ((rows[0]?.many ?? 0) < 10_000) break;
  }
  const [places] = await tx.select({ last: eventCounter.last, gone: eventCounter.gone }).from(eventCounter);
  return places ?? { last: 0, gone: 0 };
}

/** Those of the events wanted that whoever asks sees, from after a place up to another, in their order. */
export async function eventsAfter(
  tx: Tx,
  wanted: EventsWanted,
  { after, upTo, most }: { readonly after: number; readonly upTo: number; readonly most: number },
): Promise<NotedEvent[]> {
  const rows = await noted(tx)
    .where(and(gt(event.position, after), sql`${event.position} <= ${upTo}`, about(wanted)))
    .orderBy(asc(event.position))
    .limit(most);
  return rows.map(asNoted);
}

/** One event, as whoever asks sees it; null where it is gone, or not wanted. */
export async function eventAt(tx: Tx, wanted: EventsWanted, position: number): Promise<NotedEvent | null> {
  const [row] = await noted(tx).where(and(eq(event.position, position), about(wanted)));
  return row === undefined ? null : asNoted(row);
}

function about({ tables, forms, kinds }: EventsWanted): SQL | undefined {
  return and(
    inArray(event.kind, [...kinds]),
    // An empty list is none, and not a mistake.
    or(
      sql`${event.tableId} = ANY(${sql.param([...tables])}::uuid[])`,
      sql`${event.formId} = ANY(${sql.param([...forms])}::uuid[])`,
    ),
  );
}

/** What stands in every record and changes with each change of it. */
const STAMPS = ['version', 'updated_at', 'updated_by'];

const noted = (tx: Tx) =>
  tx
    .select({
      position: event.position,
      kind: event.kind,
      tableId: event.tableId,
      recordId: event.recordId,
      lastId: event.lastId,
      version: event.version,
      formId: event.formId,
      submissionId: event.submissionId,
      byId: event.byId,
      at: event.at,
      changed: sql<string[] | null>`CASE WHEN ${event.kind} = 'record.changed' THEN
        (SELECT array_agg(key ORDER BY key) FROM ${history} h, jsonb_each(h.after) AS a (key, value) WHERE h.id = ${event.historyId} AND h.before->a.key IS DISTINCT FROM a.value AND a.key <> ALL (${sql.param(STAMPS)}::text[])) END`,
      decision: submissionEvent.kind,
      word: submissionEvent.word,
    })
    .from(event)
    .leftJoin(
      submissionEvent,
      and(eq(submissionEvent.submissionId, event.submissionId), eq(submissionEvent.position, event.place)),
    );

type Row = Awaited<ReturnType<ReturnType<typeof noted>['execute']>>[number];
const asNoted = ({ position, changed, ...row }: Row): NotedEvent => ({
  ...row,
  position: position ?? 0,
  changed: changed ?? [],
});

/** How submissions stand, by id. */
export async function statesOf(
  tx: Tx,
  ids: readonly string[],
): Promise<ReadonlyMap<string, { number: string | null; state: string; record: string | null }>> {
  const { id, number, state, recordId } = submission;
  const rows =
    ids.length === 0
      ? []
      : await tx
          .select({ id, number, state, record: recordId })
          .from(submission)
          .where(inArray(id, [...ids]));
  return new Map(rows.map(({ id: one, ...rest }) => [one, rest]));
}

export type AddressRow = Omit<typeof eventAddress.$inferSelect, 'secret' | 'claimedUntil'>;

const { secret: _secret, claimedUntil: _claimed, ...shown } = getTableColumns(eventAddress);

/** All there are; administrators alone see any. */
export const readAddresses = (tx: Tx): Promise<AddressRow[]> =>
  tx.select(shown).from(eventAddress).orderBy(asc(eventAddress.label), asc(eventAddress.id));

export async function readAddress(tx: Tx, id: string): Promise<AddressRow | null> {
  const [row] = await tx.select(shown).from(eventAddress).where(eq(eventAddress.id, id));
  return row ?? null;
}

export type DeliveryRow = typeof eventDelivery.$inferSelect;

/** What became of the latest, the newest first. */
export const deliveriesTo = (tx: Tx, address: string, most: number): Promise<DeliveryRow[]> =>
  tx
    .select()
    .from(eventDelivery)
    .where(eq(eventDelivery.addressId, address))
    .orderBy(desc(eventDelivery.id))
    .limit(most);

export interface AddressSaid {
  readonly label: string;
  readonly url: string;
  readonly person: string;
  readonly tables: readonly string[];
  readonly forms: readonly string[];
  readonly kinds: readonly EventKind[];
  /** Of a new one, sealed. */
  readonly secret: Buffer | null;
  readonly version: number;
}

/** False where somebody changed it meanwhile. */
export async function putAddress(tx: Tx, id: string, said: AddressSaid, now: Date): Promise<boolean> {
  // A new one is told what happens from now on.
  if (said.version === 0) await putInOrder(tx);
  const { label, url, person, tables, forms, kinds, secret, version } = said;
  const { rows } = await tx.execute<{ done: boolean }>(
    sql`SELECT slate.put_event_address(${id}::uuid, ${label}, ${url}, ${person}::uuid, ${sql.param([...tables])}::uuid[], ${sql.param([...forms])}::uuid[], ${sql.param([...kinds])}::text[], ${secret}::bytea, ${now.toISOString()}::timestamptz, ${version}::int) AS done`,
  );
  return rows[0]?.done === true;
}

export const stopAddress = (tx: Tx, id: string, now: Date): Promise<boolean> =>
  done(tx, sql`slate.stop_event_address(${id}::uuid, ${now.toISOString()}::timestamptz)`);
/** From an event on, that event with it; from where it stands for null. */
export const resumeAddress = (tx: Tx, id: string, from: number | null): Promise<boolean> =>
  done(tx, sql`slate.resume_event_address(${id}::uuid, ${from}::bigint)`);
export const dropAddress = (tx: Tx, id: string): Promise<boolean> =>
  done(tx, sql`slate.drop_event_address(${id}::uuid)`);

async function done(tx: Tx, work: SQL): Promise<boolean> {
  const { rows } = await tx.execute<{ done: boolean }>(sql`SELECT ${work} AS done`);
  return rows[0]?.done === true;
}

/** As the owner role: an address as the job that tells it needs it. */
export type ClaimedAddress = typeof eventAddress.$inferSelect;

/** After so long a claim is of a worker that was killed. Each event that is told prolongs it. */
const CLAIM_MS = 60_000;
const claimedFrom = (now: Date): Date => new Date(now.getTime() + CLAIM_MS);

/** Takes the next address after one that may be told now and that nobody else tells; as the owner role. */
export async function claimAddress(tx: Tx, after: string, now: Date): Promise<ClaimedAddress | null> {
  const at = sql`${now.toISOString()}::timestamptz`;
  const [row] = await tx
    .update(eventAddress)
    .set({ claimedUntil: claimedFrom(now) })
    .where(
      sql`${eventAddress.id} = (SELECT id FROM slate.event_address WHERE id > ${after}::uuid AND stopped_at IS NULL AND (next_at IS NULL OR next_at <= ${at})
        AND (claimed_until IS NULL OR claimed_until < ${at}) AND (SELECT last FROM slate.event_counter) > position ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED)`,
    )
    .returning();
  return row ?? null;
}

/** The address with its secret, for what is sent by hand; as the owner role. */
export async function secretOf(tx: Tx, id: string): Promise<Buffer | null> {
  const [row] = await tx
    .select({ secret: eventAddress.secret })
    .from(eventAddress)
    .where(eq(eventAddress.id, id));
  return row?.secret ?? null;
}

/**
 * Where an address stands after something was told, or failed; null where somebody stopped it, changed it or
 * set it back meanwhile, and it is told nothing more now.
 */
export async function moveAddress(
  tx: Tx,
  { id, position, version, tries }: Pick<ClaimedAddress, 'id' | 'position' | 'version' | 'tries'>,
  { to, after, now }: { readonly to: number; readonly after: Next; readonly now: Date },
): Promise<ClaimedAddress | null> {
  const failed = after.t !== 'on';
  const [row] = await tx
    .update(eventAddress)
    .set({
      position: to,
      tries: failed ? tries + 1 : 0,
      failingSince: failed
        ? sql`coalesce(${eventAddress.failingSince}, ${now.toISOString()}::timestamptz)`
        : null,
      nextAt: after.t === 'again' ? after.at : null,
      claimedUntil: failed ? null : claimedFrom(now),
      ...(after.t === 'stop' && { stoppedAt: now, stoppedBecause: after.because }),
    })
    .where(
      and(
        eq(eventAddress.id, id),
        eq(eventAddress.position, position),
        eq(eventAddress.version, version),
        sql`${eventAddress.stoppedAt} IS NULL`,
      ),
    )
    .returning();
  return row ?? null;
}

/** It has been told all there is, or as much as one round tells. */
export async function releaseAddress(tx: Tx, id: string): Promise<void> {
  await tx.update(eventAddress).set({ claimedUntil: null }).where(eq(eventAddress.id, id));
}

/** Nothing can be told any more: whoever it sees as has left, or its secret cannot be read. */
export async function stopBecause(
  tx: Tx,
  id: string,
  because: NonNullable<AddressRow['stoppedBecause']>,
  now: Date,
): Promise<void> {
  await tx
    .update(eventAddress)
    .set({ stoppedAt: now, stoppedBecause: because, claimedUntil: null })
    .where(eq(eventAddress.id, id));
}

export async function noteDelivery(
  tx: Tx,
  address: string,
  {
    position,
    kind,
    subject,
  }: { readonly position: number | null; readonly kind: string; readonly subject: string },
  { status, fault, ms }: Delivered,
  now: Date,
): Promise<void> {
  await tx
    .insert(eventDelivery)
    .values({ addressId: address, position, kind, subject, status, fault, ms, at: now });
}
