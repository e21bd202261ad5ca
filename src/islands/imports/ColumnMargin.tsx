import { digits } from '../../core/wording/numbers';
import { EyeOff } from '../kit/icons';
import { asKind, asNames, type ColumnDecision } from '../../core/import/decisions';
import { detectedKinds, type DetectedColumn, type DetectedKind } from '../../core/import/detection';
import { headingLabel } from '../../core/import/heading';
import { mayRequire } from '../../core/import/draft-columns';
import { NUMBER, type Into } from '../../core/import/into-table';
import { isSame, nameable, relationId, relationsOf } from '../../core/import/references';
import { personalKinds, type PersonalData } from '../../core/table/model';
import { evidenceSentences, kindWords, personalWords } from '../../core/wording/proposal-sentence';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import type { Importing } from './use-import';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface InHand {
  readonly importing: Importing;
  /** `Sheet/Column`. */
  readonly path: string;
  readonly column: DetectedColumn;
  readonly sheet: string;
}

const dateOrders = spoken(() => [
  { value: 'dmy', label: speak`day, month, year` },
  { value: 'mdy', label: speak`month, day, year` },
]);
const signs = spoken(() => [
  { value: '.', label: speak`a point comes before decimals` },
  { value: ',', label: speak`a comma comes before decimals` },
]);

export function ColumnInHand({ importing, path, column, sheet }: InHand) {
  const { decisions, decide, data, column: decideColumn } = importing;
  const into = decisions.sheets[sheet]?.into;
  const target = data.tables.find(({ id }) => id === into?.table);
  const decided = decisions.columns[path] ?? {};
  const change = (part: ColumnDecision) => decideColumn(path, part);
  const kind: DetectedKind = decided.kind ?? column.kind;
  const personal = decided.personal === undefined ? column.personal : decided.personal;
  return (
    <div className="margin-part" role="group" aria-label={speak`The column ${column.name}`}>
      <h2 className="margin-title">{speak`The column “${column.name}”`}</h2>
      {decided.leaveOut === true ? (
        <p className="mb-2 text-[14px]">{speak`It is left out.`}</p>
      ) : (
        <>
          {into !== undefined && target !== undefined ? (
            <Sentence>{speakIn`fills ${(
              <Select
                label={speak`What the column fills`}
                value={into.columns[column.name] ?? ''}
                choices={[
                  { value: '', label: speak`nothing` },
                  { value: NUMBER, label: speak`the records’ own number` },
                  ...target.columns.map(({ id, label }) => ({ value: id, label })),
                ]}
                onChange={(id) =>
                  decide((before) => ({
                    ...before,
                    sheets: {
                      ...before.sheets,
                      [sheet]: { ...before.sheets[sheet], into: refilled(into, column.name, id) },
                    },
                  }))
                }
              />
            )}`}</Sentence>
          ) : (
            <Sentence>{speakIn`is called ${(
              <Word
                label={speak`Name of the column`}
                value={decided.label ?? headingLabel(column.name)}
                onChange={(label) => change({ label: label.trim() === '' ? column.name : label })}
              />
            )} and holds ${(<KindPick importing={importing} path={path} sheet={sheet} column={column} />)}`}</Sentence>
          )}
          {(kind === 'date' || kind === 'date-time') &&
            (column.ask?.t === 'date-order' ||
              column.reading.dateOrder === 'dmy' ||
              column.reading.dateOrder === 'mdy') && (
              <AskedOrder
                column={column}
                value={decided.dateOrder ?? (column.ask === null ? (column.reading.dateOrder ?? null) : null)}
                onChange={(dateOrder) => change({ dateOrder })}
              />
            )}
          {(kind === 'decimal' || kind === 'whole' || kind === 'money') &&
            (column.ask?.t === 'decimal-sign' || (column.reading.decimals ?? 0) > 0) && (
              <AskedSign
                column={column}
                value={
                  decided.decimalSign ?? (column.ask === null ? (column.reading.decimalSign ?? null) : null)
                }
                onChange={(decimalSign) => change({ decimalSign })}
              />
            )}
          {into === undefined && (
            <Sentence>
              <EyeOff size={14} aria-hidden className="text-plum" />
              {speakIn`It holds ${(
                <Select
                  label={speak`Data about people`}
                  value={personal ?? 'none'}
                  choices={[
                    { value: 'none', label: speak`nothing about people` },
                    ...personalKinds.map((value) => ({ value, label: personalWords()[value] })),
                  ]}
                  onChange={(value) =>
                    change({ personal: value === 'none' ? null : (value as PersonalData) })
                  }
                />
              )}`}
            </Sentence>
          )}
          {into === undefined && <Rules column={column} kind={kind} decided={decided} change={change} />}
          <ul className="my-2 list-disc space-y-0.5 pl-5 text-[13px] text-slate-700">
            {evidenceSentences(column).map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
          {column.misfits > 0 && kind === column.kind && <Misfits column={column} />}
        </>
      )}
      <button
        type="button"
        className="button-plain"
        onClick={() => change({ leaveOut: decided.leaveOut !== true })}
      >
        {decided.leaveOut === true ? speak`Take it after all` : speak`Leave this column out`}
      </button>
    </div>
  );
}

/** What would be asked of every record to come, for all there are bear it; it may be left open. */
function Rules({
  column,
  kind,
  decided,
  change,
}: {
  column: DetectedColumn;
  kind: DetectedKind;
  decided: ColumnDecision;
  change: (part: ColumnDecision) => void;
}) {
  const [fills, differs] = [mayRequire(column), column.unique && kind === column.kind];
  if (!fills && !differs) return null;
  return (
    <Sentence>
      {speakIn`In every record it${
        fills && (
          <>
            {' '}
            <Select
              label={speak`Whether it must be filled`}
              value={decided.required === false ? 'no' : 'yes'}
              choices={[
                { value: 'yes', label: speak`must be filled` },
                { value: 'no', label: speak`may be empty` },
              ]}
              onChange={(value) => change({ required: value === 'yes' })}
            />
          </>
        )
      }${fills && differs && ' and'}`}
      {differs && (
        <>
          {' '}
          <Select
            label={speak`Whether it must be different`}
            value={decided.unique === false ? 'no' : 'yes'}
            choices={[
              { value: 'yes', label: speak`must be different` },
              { value: 'no', label: speak`may come again` },
            ]}
            onChange={(value) => change({ unique: value === 'yes' })}
          />
        </>
      )}
    </Sentence>
  );
}

/** What a column holds: values of a kind, or records of a sheet or table, by what tells them apart. */
function KindPick({
  importing: {
    data: { detection, tables },
    decisions,
    decide,
  },
  path,
  sheet,
  column,
}: InHand) {
  if (detection === null) return null;
  const from = { sheet, column: column.name };
  const id = relationId({ from });
  const relation = relationsOf(detection, decisions).find(
    (one) => relationId(one) === id && one.alongWith === null,
  );
  const named = nameable(detection, decisions, tables, from);
  const at =
    relation === undefined || decisions.declined.includes(id)
      ? -1
      : named.findIndex((one) => isSame(one, relation));
  const choices = [
    ...detectedKinds
      .filter((one) => one !== 'choice' || column.choices !== null)
      .map((value) => ({ value: value as string, label: kindWords()[value] })),
    ...named.map(({ to, table }, i) => ({
      value: speak`names ${i}`,
      label: speak`a record of ${table === null ? '' : speak`your table `}${to.sheet}, by its ${to.column}`,
    })),
  ];
  const pick = (value: string) => {
    const names = value.startsWith('names ') ? named[Number(value.slice(6))] : undefined;
    decide((before) =>
      names === undefined
        ? asKind(before, path, value as DetectedKind, relation === undefined ? null : id)
        : asNames(before, path, names, id),
    );
  };
  return (
    <Select
      label={speak`Kind of the column`}
      value={at >= 0 ? speak`names ${at}` : (decisions.columns[path]?.kind ?? column.kind)}
      choices={choices}
      onChange={pick}
    />
  );
}

/** One heading fills a column; whichever filled it before fills nothing. */
function refilled(into: Into, heading: string, id: string): Into {
  const others = Object.entries(into.columns).filter(([name, column]) => name !== heading && column !== id);
  const columns = Object.fromEntries(id === '' ? others : [...others, [heading, id]]);
  return { ...into, columns, by: into.by.filter((one) => Object.values(columns).includes(one)) };
}

function AskedOrder({
  column: { ask },
  value,
  onChange,
}: {
  column: DetectedColumn;
  value: string | null;
  onChange: (order: 'dmy' | 'mdy') => void;
}) {
  return (
    <>
      {ask?.t === 'date-order' && value === null && (
        <p className="text-[14px]">
          {speakIn`${(<span className="marked">{ask.examples.slice(0, 2).join(', ')}</span>)} could be read two ways${
            ask.suggested !== null &&
            speak`; the rest of the sheet has ${ask.suggested === 'mdy' ? speak`the month` : speak`the day`} first`
          }`}
          .
        </p>
      )}
      <Sentence>{speakIn`It is written ${(
        <Select
          label={speak`Order of day and month`}
          value={value}
          placeholder={speak`say how`}
          choices={dateOrders()}
          onChange={(order) => onChange(order === 'mdy' ? 'mdy' : 'dmy')}
        />
      )}`}</Sentence>
    </>
  );
}

function AskedSign({
  column: { ask },
  value,
  onChange,
}: {
  column: DetectedColumn;
  value: string | null;
  onChange: (sign: '.' | ',') => void;
}) {
  return (
    <>
      {ask?.t === 'decimal-sign' && value === null && (
        <p className="text-[14px]">{speakIn`${(<span className="marked">{ask.examples.slice(0, 2).join(', ')}</span>)} could be thousands or decimals.`}</p>
      )}
      <Sentence>{speakIn`In it ${(
        <Select
          label={speak`Meaning of the separator`}
          value={value}
          placeholder={speak`say what comes before decimals`}
          choices={signs()}
          onChange={(sign) => onChange(sign === ',' ? ',' : '.')}
        />
      )}`}</Sentence>
    </>
  );
}

function Misfits({ column }: { column: DetectedColumn }) {
  return (
    <>
      <p className="text-[14px] font-semibold text-rust">{speak`${digits(column.misfits)} ${column.misfits === 1 ? speak`cell does` : speak`cells do`} not fit`}</p>
      <ul className="mb-2 list-disc space-y-0.5 pl-5 text-[13px]">
        {column.misfitCells.slice(0, 8).map(({ row, text }) => (
          <li key={row}>{speakIn`row ${digits(row)}: ${(<span className="font-mono">{text}</span>)}`}</li>
        ))}
      </ul>
    </>
  );
}
