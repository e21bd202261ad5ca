import type { Rehearsed, WrittenRecord } from '../../core/form/rehearsed';
import { grouped } from '../../core/kernel/grouped';
import { speak } from '../../core/wording/speak';

const looks: Readonly<Record<WrittenRecord['what'], string>> = {
  new: 'bg-lichen-soft text-lichen-deep',
  changed: 'bg-marker text-ink',
  removed: 'bg-rust-soft text-rust',
};

/** The records that would be written, table by table, with what stood there before. */
export function WrittenRecords({ told }: { told: Rehearsed }) {
  if (told.records.length === 0)
    return (
      <p className="quiet">
        {told.issues.length === 0
          ? speak`Nothing would be written.`
          : speak`None: it could not be sent like this.`}
      </p>
    );
  const groups = [...grouped(told.records, ({ table, what }) => `${table}\n${what}`)];
  return (
    <>
      <table className="grid-table">
        <thead>
          <tr>
            <th>{speak`table`}</th>
            <th>{speak`columns`}</th>
          </tr>
        </thead>
        <tbody>
          {groups.flatMap(([key, records]) =>
            records.map((record, i) => (
              <tr key={`${key}${i}`} className="align-top">
                <td className="border-b border-slate-200 px-2 py-1.5 whitespace-nowrap">
                  {i === 0 && (
                    <>
                      <strong>{record.key}</strong>{' '}
                      <span className={`tag py-0! ${looks[record.what]}`}>
                        {records.length === 1 ? record.what : `${records.length} ${record.what}`}
                      </span>
                    </>
                  )}
                </td>
                <td className="border-b border-slate-200 px-2 py-1.5 break-words">
                  {record.cells.map((cell, at) => (
                    <span key={cell.key}>
                      {at > 0 && ' · '}
                      <span className="text-slate-600">{cell.key}</span>{' '}
                      {cell.before !== null && cell.before !== '' && (
                        <s className="text-slate-600">{cell.before}</s>
                      )}{' '}
                      {cell.before === null ? (
                        <strong className="font-semibold">{cell.after || '—'}</strong>
                      ) : (
                        <mark className="marked text-ink">{cell.after || speak`nothing`}</mark>
                      )}
                    </span>
                  ))}
                </td>
              </tr>
            )),
          )}
        </tbody>
      </table>
      {told.changedTables && (
        <p className="quiet mt-2">{speak`The tables are not like this yet: they were made for the rehearsal, and put back.`}</p>
      )}
    </>
  );
}
