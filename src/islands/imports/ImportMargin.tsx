import { digits } from '../../core/wording/numbers';
import { CircleHelp } from '../kit/icons';
import { columnPath } from '../../core/import/decisions';
import { recordsOf } from '../../core/import/preview';
import { addedThere, addedTo } from '../../core/import/references';
import { mergedWords, refusedSentence } from '../../core/wording/proposal-sentence';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { RefusedFiles } from './RefusedFiles';
import type { Importing } from './use-import';
import { ColumnInHand } from './ColumnMargin';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly importing: Importing;
  readonly picked: string | null;
  readonly pick: (path: string | null) => void;
}

/** The column in hand, or the whole. */
export function ImportMargin({ importing, picked, pick }: Props) {
  const {
    data: { detection },
  } = importing;
  const sheet = detection?.sheets.find(({ name, columns }) =>
    columns.some((one) => columnPath(name, one.name) === picked),
  );
  const column = sheet?.columns.find((one) => columnPath(sheet.name, one.name) === picked);
  return (
    <>
      {detection?.packaged === undefined ? (
        <Whole importing={importing} pick={pick} />
      ) : (
        <WholePackage importing={importing} tables={detection.packaged.length} />
      )}
      {detection?.packaged !== undefined ? null : column === undefined || picked === null ? (
        <div className="margin-part">
          <p className="quiet">{speak`Pick the heading of a column to see why it is taken for what it is, and to correct it.`}</p>
        </div>
      ) : (
        <ColumnInHand
          key={picked}
          importing={importing}
          path={picked}
          column={column}
          sheet={sheet?.name ?? ''}
        />
      )}
      <Refusals importing={importing} />
    </>
  );
}

function Whole({ importing, pick }: { importing: Importing; pick: (path: string) => void }) {
  const { plan, data, asks, decisions, decide, cancel, trouble, busy } = importing;
  const { detection } = data;
  const fresh = plan.tables.filter(({ into }) => into === null);
  const records =
    detection === null
      ? 0
      : fresh.reduce(
          (sum, one) =>
            sum +
            recordsOf(one, detection, decisions) +
            (one.rows.t === 'each' ? addedTo(detection, decisions, one.sheet) : 0),
          0,
        );
  const there = plan.tables.filter(({ into }) => into !== null);
  const named =
    detection === null
      ? []
      : addedThere(detection, decisions, data.tables).map(({ from, to, missed }) => ({
          path: columnPath(from.sheet, from.column),
          table: to.sheet,
          sheet: from.sheet,
          missed,
        }));
  return (
    <div className="margin-part first">
      <h2 className="margin-title">{speak`What would come of it`}</h2>
      {fresh.length > 0 && (
        <p className="mb-2 text-[14px]">
          {speakIn`${fresh.length === 1 ? speak`One new table` : speak`${digits(fresh.length)} new tables`} with ${digits(records)} records${data.files.length > 1 && speak` of ${data.files.length} files`}`}
          .
        </p>
      )}
      {there.length > 0 && (
        <p className="mb-2 text-[14px]">
          {speak`Rows come into ${[...new Set(there.map(({ table }) => table.label))].join(', ')}`}.
        </p>
      )}
      {named.map(({ path, table, sheet, missed }) => (
        <p
          key={path}
          className="mb-2 text-[14px]"
        >{speak`${table} gets ${missed === 1 ? speak`one record` : speak`${digits(missed)} records`} for what ${sheet} names and is not there.`}</p>
      ))}
      {asks.length > 0 && (
        <div className="mb-2">
          <p className="mb-1 flex items-center gap-1.5 text-[14px] font-semibold">
            <CircleHelp size={15} aria-hidden className="text-ochre" />
            {speak`Your word is needed first`}
          </p>
          <ul className="space-y-1">
            {asks.map(({ path, ask }) => (
              <li key={path}>
                <button
                  type="button"
                  className="marked rounded text-left text-[14px] hover:underline"
                  onClick={() => pick(path)}
                >
                  {path.replace('/', ', ')}:{' '}
                  {ask.t === 'date-order' ? speak`day or month first` : speak`what the separator means`}
                </button>
              </li>
            ))}
          </ul>
        </div>
      )}
      <Sentence>{speakIn`If a row does not fit, ${(
        <Select
          label={speak`What happens when a row does not fit`}
          value={decisions.refusedRows}
          choices={[
            { value: 'keep-nothing', label: speak`keep nothing` },
            { value: 'keep-the-rest', label: speak`keep the others` },
          ]}
          onChange={(value) =>
            decide(
              (before) => ({
                ...before,
                refusedRows: value === 'keep-the-rest' ? 'keep-the-rest' : 'keep-nothing',
              }),
              true,
            )
          }
        />
      )}`}</Sentence>
      <Tried importing={importing} />
      {trouble !== '' && (
        <p role="alert" className="trouble mb-2">
          {trouble}
        </p>
      )}
      <div className="flex flex-wrap gap-2 pt-1">
        <Go importing={importing} fresh={fresh.length} there={there.length} />
        <button
          type="button"
          className="button"
          disabled={busy}
          onClick={() => void cancel()}
        >{speak`Cancel the import`}</button>
      </div>
    </div>
  );
}

/** A Data Package is made as it is. */
function WholePackage({
  importing: { accept, cancel, trouble, busy },
  tables,
}: {
  importing: Importing;
  tables: number;
}) {
  return (
    <div className="margin-part first">
      <h2 className="margin-title">{speak`A Data Package`}</h2>
      <p className="mb-2 text-[14px]">{speak`${tables === 1 ? speak`One table was` : speak`${digits(tables)} tables were`} taken out of a workspace. They are made as they were, with their records, numbers and references, all at once or not at all. Who made the records then is not in the package; here it is you.`}</p>
      {trouble !== '' && (
        <p role="alert" className="trouble mb-2">
          {trouble}
        </p>
      )}
      <div className="flex flex-wrap gap-2 pt-1">
        <button
          type="button"
          className="button button-go"
          disabled={busy}
          onClick={() => void accept()}
        >{speak`Make ${tables === 1 ? speak`the table` : speak`${digits(tables)} tables`}`}</button>
        <button
          type="button"
          className="button"
          disabled={busy}
          onClick={() => void cancel()}
        >{speak`Cancel the import`}</button>
      </div>
    </div>
  );
}

/** Before rows come into a table there is, it is seen what they would do there. */
function Go({
  importing: { busy, asks, accept, tryOut, trial, decisions },
  fresh,
  there,
}: {
  importing: Importing;
  fresh: number;
  there: number;
}) {
  const waits = busy || asks.length > 0 || fresh + there === 0;
  if (there === 0)
    return (
      <button
        type="button"
        className="button button-go"
        disabled={waits}
        onClick={() => void accept()}
      >{speak`Make ${fresh === 1 ? speak`the table` : speak`${digits(fresh)} tables`}`}</button>
    );
  if (trial === null)
    return (
      <button
        type="button"
        className="button button-dark"
        disabled={waits}
        onClick={() => void tryOut()}
      >{speak`Try it out`}</button>
    );
  const stopped = trial.result.refused > 0 && decisions.refusedRows === 'keep-nothing';
  return (
    <button
      type="button"
      className="button button-go"
      disabled={waits || stopped}
      onClick={() => void accept()}
    >
      {trial.result.refused > 0 ? speak`Bring in the others` : speak`Bring them in`}
    </button>
  );
}

/** What a try came to, table by table. */
function Tried({ importing: { trial, data } }: { importing: Importing }) {
  if (trial === null) return null;
  const { tables, refused, refusals, refusedSheets = [] } = trial.result;
  return (
    <div className="mb-2 rounded-md border border-slate-200 bg-slate-50 px-3 py-2" role="status">
      <p className="mb-1 text-[14px] font-semibold">{speak`Tried out, and nothing kept yet`}</p>
      <ul className="grid gap-1 text-[14px]">
        {tables.map(({ key, label, records, merged }) => (
          <li key={key}>
            <strong>{label}</strong>:{' '}
            {merged === undefined ? speak`${digits(records)} records made` : mergedWords(merged)}
          </li>
        ))}
      </ul>
      {refused > 0 && (
        <>
          <p className="mt-1 text-[14px] font-semibold text-rust">{speak`${digits(refused)} ${refused === 1 ? speak`cell does` : speak`cells do`} not fit`}</p>
          <ul className="list-disc pl-5 text-[13px]">
            {refusals.slice(0, 8).map((one, i) => (
              <li key={i}>{refusedSentence(one)}</li>
            ))}
          </ul>
          <RefusedFiles id={data.id} sheets={refusedSheets} />
        </>
      )}
    </div>
  );
}

function Refusals({
  importing: {
    data: { id, state, result },
  },
}: {
  importing: Importing;
}) {
  if (state !== 'refused' || result === null) return null;
  return (
    <div className="margin-part" role="alert">
      <h2 className="margin-title text-rust">{speak`Nothing was kept: ${digits(result.refused)} ${result.refused === 1 ? speak`cell does` : speak`cells do`} not fit`}</h2>
      <ul className="list-disc space-y-1 pl-5 text-[14px]">
        {result.refusals.slice(0, 12).map((one, i) => (
          <li key={i}>{refusedSentence(one)}</li>
        ))}
      </ul>
      <RefusedFiles id={id} sheets={result.refusedSheets ?? []} />
      <p className="quiet mt-2">{speak`Correct the sheet and bring it again, make the column a text, or keep the rows that fit.`}</p>
    </div>
  );
}
