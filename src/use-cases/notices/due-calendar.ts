import ical from 'ical-generator';
import { ok, type Result } from '../../core/kernel/result';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail } from '../../core/kernel/result';
import { whatItIs } from '../../core/wording/notice-sentence';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { formatsHere } from '../../core/formats/formats';
import { formatsOf } from '../../core/workspace';
import type { Tx } from '../../data/connect';
import { showingTo } from '../../data/shown-to';
import { readOwnFormats } from '../../data/system/workspace';
import { calendarOf } from '../../data/system/notices';
import { waitingFor } from '../../data/system/submission-lists';
import { withDays } from '../../core/approval/due';
import { asPerson } from '../../data/transaction';
import { instantOf } from '../workspace/asking';
import { hashOf } from '../people/keep-person';
import { dueFor } from '../submissions/submission-data';
import { speak } from '../../core/wording/speak';

const MOST = 500;
const SECRET = /^[\w-]{32}$/;

/**
 * What is due for whoever has this secret, as iCalendar (RFC 5545): a day for each thing. Whoever knows the
 * address reads it, and nothing else.
 */
export async function dueCalendar(secret: string, now: Date): Promise<Result<string, Refusal>> {
  if (!SECRET.test(secret)) return fail(notFound('page'));
  const found = await asPerson({ person: '' }, async (tx) => ok(await calendarOf(tx, hashOf(secret))));
  if (!found.ok) return found;
  if (found.value === null) return fail(notFound('page'));
  const who = found.value;
  return asPerson({ person: who }, async (tx, catalogue) => {
    const formats = formatsOf(catalogue.workspace, await readOwnFormats(tx, who));
    return showingTo(formats, async () => ok(await dueOf(tx, catalogue, now)));
  });
}

/** What waits for whoever reads, on its days. */
async function dueOf(tx: Tx, catalogue: Catalogue, now: Date): Promise<string> {
  const calendar = ical({
    name: speak`To approve`,
    prodId: { company: 'tidy-slate', product: 'due', language: formatsHere().language.toUpperCase() },
    timezone: catalogue.workspace.zone,
  });
  for (const row of await waitingFor(tx, MOST)) {
    const { step, begun, design } = row;
    const due =
      step === null || begun === null
        ? null
        : dueFor(catalogue, { now }, withDays(design.steps[step], row.days), new Date(begun));
    if (due === null) continue;
    calendar.createEvent({
      id: `${row.id}-${step}`,
      ...(due.time === undefined
        ? { allDay: true, start: due.day }
        : { start: instantOf(catalogue.workspace, `${due.day}T${due.time}`) }),
      stamp: row.since,
      summary: speak`Approve ${whatItIs(row)}`,
      description: speak`Sent by ${row.senderName}`,
      url: `${process.env['SLATE_ORIGIN'] ?? ''}/submissions/${row.id}`,
    });
  }
  return calendar.toString();
}
