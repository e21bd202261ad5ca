import { useState } from 'react';
import type { RecordInSheet } from '../../contract/sheet-from-server';
import type { Answers } from '../../core/form/answers';
import { groupsOf } from '../../core/form/design';
import { fetched } from '../kit/call';
import { UsersRound } from '../kit/icons';
import { useLive } from '../kit/live';
import type { Filling } from './use-fill';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Says while a record is being changed that somebody else has just changed it too, rather than when it is sent. */
export function ChangedMeanwhile({ fill, record }: { fill: Filling; record: RecordInSheet }) {
  const { data } = fill;
  const [isOther, setOther] = useState(false);
  const tables = [data.design.table, ...groupsOf(data.design).map(({ table }) => table)];
  useLive(
    tables.map(({ id }) => `table:${id}`),
    () =>
      void fetched<{ answers: Answers }>(`/api/forms/${data.formId}/records/${record.id}`)
        .then(({ answers }) => setOther(JSON.stringify(answers) !== JSON.stringify(record.now)))
        // Without a connection, or when the record is gone, sending says so.
        .catch(() => undefined),
  );
  const takeIn = async () => {
    // What is typed meets what the record has become when the page is drawn again.
    if (fill.keeping.t === 'fresh' || (await fill.flush())) location.reload();
  };
  if (!isOther) return null;
  return (
    <div role="status" className="mb-3 flex flex-wrap items-center gap-3 rounded-md bg-marker-soft px-4 py-2">
      <UsersRound size={16} aria-hidden />
      <p className="min-w-60 flex-1">{speakIn`${(<strong>{speak`Somebody has changed this record just now.`}</strong>)} What you typed stays; where both of you changed the same, you say which stands.`}</p>
      <button
        type="button"
        className="button"
        onClick={() => void takeIn()}
      >{speak`Take their change in`}</button>
    </div>
  );
}
