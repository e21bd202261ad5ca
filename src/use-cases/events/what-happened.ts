import { mayForm, seenTable, tablesFor, type Catalogue } from '../../core/catalogue/catalogue';
import { cloudEvent, eventKinds, type CloudEvent, type NotedEvent } from '../../core/event/event';
import { recordJson } from '../../core/record/record-json';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { origin } from '../../data/origin';
import { recordsOf } from '../../data/runtime/records/records';
import { statesOf, type EventsWanted } from '../../data/system/events';

/** All that somebody may follow: of the tables they see, and of the forms of which they see every submission. */
export const allSeen = (catalogue: Catalogue, person: string): EventsWanted => ({
  tables: tablesFor(catalogue, person, 'see').map(({ id }) => id),
  forms: [...catalogue.forms.keys()].filter((id) => mayForm(catalogue, person, 'see-all', id)),
  kinds: eventKinds,
});

/** Events as CloudEvents, with each record and submission as it is by now, as whoever asks sees it. */
export async function told(
  tx: Tx,
  catalogue: Catalogue,
  person: string,
  events: readonly NotedEvent[],
): Promise<CloudEvent[]> {
  const records = await recordsTold(tx, catalogue, person, events);
  const submissions = await statesOf(
    tx,
    events.flatMap(({ submissionId }) => submissionId ?? []),
  );
  return events.map((event) => {
    const { tableId, formId, recordId, lastId, submissionId, byId } = event;
    return cloudEvent(
      {
        event,
        key: catalogue.tables.get(tableId ?? '')?.key ?? catalogue.forms.get(formId ?? '')?.key ?? '',
        by: catalogue.people.get(byId ?? '')?.name ?? null,
        record: lastId === null ? (records.get(recordId ?? '') ?? null) : null,
        submission: submissions.get(submissionId ?? '') ?? null,
      },
      origin(),
    );
  });
}

async function recordsTold(
  tx: Tx,
  catalogue: Catalogue,
  person: string,
  events: readonly NotedEvent[],
): Promise<ReadonlyMap<string, Readonly<Record<string, unknown>>>> {
  const found = new Map<string, Readonly<Record<string, unknown>>>();
  for (const table of tablesIn(catalogue, person, events)) {
    const ids = events
      .filter(({ tableId }) => tableId === table.id)
      .flatMap(({ recordId }) => recordId ?? []);
    for (const [id, record] of await recordsOf(tx, catalogue.tables, table, [...new Set(ids)]))
      found.set(id, recordJson(table.columns, record));
  }
  return found;
}

function tablesIn(catalogue: Catalogue, person: string, events: readonly NotedEvent[]): Table[] {
  const keys = new Set(events.flatMap(({ tableId }) => catalogue.tables.get(tableId ?? '')?.key ?? []));
  return [...keys].flatMap((key) => seenTable(catalogue, person, key) ?? []);
}
