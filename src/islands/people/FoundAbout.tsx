import type { FoundPerson, FoundRecord } from '../../contract/one-person';
import { showDate } from '../../core/formats/days';
import { when } from '../kit/when';
import { withRecord, withSubmission, type AllChosen } from './chosen';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** What was found about somebody, each with a tick to choose it. */
export function FoundAbout({
  found: { tables, submissions, moreSubmissions },
  chosen,
  onChoose,
}: {
  found: FoundPerson;
  chosen: AllChosen;
  onChoose: (chosen: AllChosen) => void;
}) {
  if (tables.length + submissions.length === 0)
    return (
      <p
        className="mt-3"
        role="status"
      >{speak`Nothing was found in columns that are marked as data about people, nor in what was sent for them.`}</p>
    );
  return (
    <>
      {tables.map((table) => (
        <fieldset key={table.id} className="mt-3">
          <legend className="font-semibold">{table.label}</legend>
          {table.records.map((record) => (
            <Choice
              key={record.id}
              isChosen={chosen.records.has(record.id)}
              onChoose={() => onChoose(withRecord(chosen, table, record))}
            >
              <RecordWords record={record} why={table.why} />
            </Choice>
          ))}
          {table.more && <More />}
        </fieldset>
      ))}
      {submissions.length > 0 && (
        <fieldset className="mt-3">
          <legend className="font-semibold">{speak`Begun or sent, and in no record`}</legend>
          {submissions.map((one) => (
            <Choice
              key={one.id}
              isChosen={chosen.submissions.has(one.id)}
              onChoose={() => onChoose(withSubmission(chosen, one))}
            >
              {one.form} <span className="font-mono text-[14px]">{one.number ?? speak`draft`}</span>{' '}
              <span className="quiet">{speakIn`by ${one.sender}${one.sentAt !== null && speak`, sent ${when(one.sentAt)}`}`}</span>
            </Choice>
          ))}
          {moreSubmissions && <More />}
        </fieldset>
      )}
    </>
  );
}

const More = () => <p className="quiet">{speak`There are more; say more of the name.`}</p>;

function Choice({
  isChosen,
  onChoose,
  children,
}: {
  isChosen: boolean;
  onChoose: () => void;
  children: React.ReactNode;
}) {
  return (
    <label className="flex cursor-pointer items-start gap-2 py-1">
      <input type="checkbox" className="mt-1.5" checked={isChosen} onChange={onChoose} />
      <span className="min-w-0 [overflow-wrap:anywhere]">{children}</span>
    </label>
  );
}

function RecordWords({ record, why }: { record: FoundRecord; why: string | null }) {
  return (
    <>
      <span className="font-mono text-[14px]">{record.number}</span>{' '}
      {record.values.map(({ label, text }, i) => (
        <span key={label}>
          {i > 0 && ' · '}
          <span className="quiet">{label}</span> <bdi>{text}</bdi>
        </span>
      ))}
      <span className="quiet">
        {' '}
        {speakIn`· made ${showDate(record.made)}${record.removed && speak`, in the bin`}`}
      </span>
      {record.keptUntil !== null && (
        <span className="block text-[14px] text-plum">{speakIn`must be kept until ${showDate(record.keptUntil)}: ${why}`}</span>
      )}
    </>
  );
}
