import type { Reading } from '../../core/import/detection';
import { isCalculated, type Column, type ColumnKind } from '../../core/table/model';
import { ExpressionInput } from '../kit/ExpressionInput';
import { InCurrency, InUnit, RequiredPick, WithDecimals } from '../kit/LineSettings';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import { ChoiceLines } from './ChoiceLines';
import type { TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const NUMBERS: readonly ColumnKind[] = ['whole', 'decimal', 'money'];

interface SettingsProps {
  readonly design: TableDesign;
  readonly column: Column;
  readonly change: (part: Partial<Column>) => void;
}

/** What a column holds and demands, according to its kind and to whether it is filled in or worked out. */
export function ColumnSettings({ design, column, change }: SettingsProps) {
  const isWorkedOut = isCalculated(column);
  const there = design.columnThere(column.id);
  return (
    <>
      {isWorkedOut ? (
        <Formula design={design} column={column} change={change} />
      ) : (
        <Demands column={column} change={change} />
      )}
      <KindSettings design={design} column={column} change={change} />
      {!isWorkedOut && there !== null && there.kind !== column.kind && (
        <HowItIsRead design={design} column={column} before={there} />
      )}
    </>
  );
}

/** What a column demands of its records. */
function Demands({ column, change }: Omit<SettingsProps, 'design'>) {
  return (
    <>
      <Sentence>{speakIn`It ${(<RequiredPick required={column.required} onChange={(required) => change({ required })} />)} and ${(
        <Select
          label={speak`May it repeat`}
          value={column.unique ? 'yes' : 'no'}
          choices={[
            { value: 'no', label: speak`may be the same in several records` },
            { value: 'yes', label: speak`must be different in every record` },
          ]}
          onChange={(value) => change({ unique: value === 'yes' })}
        />
      )}`}</Sentence>
      <Sentence>{speakIn`and ${(
        <Select
          label={speak`Who writes it`}
          value={column.locked ? 'locked' : 'open'}
          choices={[
            { value: 'open', label: speak`may be typed in the table` },
            { value: 'locked', label: speak`is written by forms and imports alone` },
          ]}
          onChange={(value) => change({ locked: value === 'locked' })}
        />
      )}`}</Sentence>
      {column.kind !== 'reference' && (
        <Sentence>{speakIn`Where nothing is given it is ${(
          <Word
            mono
            label={speak`Default, as an expression`}
            value={column.default}
            placeholder={speak`left empty`}
            onChange={(text) => change({ default: text })}
          />
        )}`}</Sentence>
      )}
    </>
  );
}

/** How a calculated column is worked out, as FEEL over the columns beside it. */
function Formula({ design, column, change }: SettingsProps) {
  return (
    <div className="mb-2">
      <ExpressionInput
        label={speak`How it is worked out`}
        stored={column.formula.trim() === '' ? '' : column.formula}
        scope={design.scope}
        own={column.key}
        example="received - used"
        onChange={(formula) => change({ formula: formula === '' ? ' ' : formula })}
      />
      <p className="quiet mt-2">{speak`It is worked out whenever it is looked at, from what the record, what it refers to and its rows hold then. Nobody types in it.`}</p>
    </div>
  );
}

/** What only columns of a kind have to be told. */
function KindSettings({ design, column, change }: SettingsProps) {
  switch (column.kind) {
    case 'whole':
      return <InUnit measure={column} onChange={change} />;
    case 'decimal':
      return <WithDecimals measure={column} onChange={change} />;
    case 'money':
      return <InCurrency measure={column} onChange={change} />;
    case 'choice':
    case 'choices':
      return <ChoiceLines design={design} column={column} change={change} />;
    case 'reference':
      return <TargetPick design={design} column={column} change={change} />;
    default:
      return null;
  }
}

function TargetPick({ design, column, change }: SettingsProps) {
  const target = column.target === design.table.id ? design.table : design.others.get(column.target ?? '');
  const titles = (target?.title ?? []).flatMap(
    (id) => target?.columns.find((one) => one.id === id)?.label ?? [],
  );
  const tables = [...design.others.values(), ...(design.isNew ? [] : [design.table])];
  return (
    <>
      <Sentence>{speakIn`of ${(
        <Select
          label={speak`Table it refers to`}
          value={column.target}
          placeholder={speak`a table`}
          choices={tables.map(({ id, label }) => ({ value: id, label }))}
          onChange={(id) => change({ target: id })}
        />
      )}`}</Sentence>
      {target !== undefined && (
        <p className="quiet mb-1.5">
          {speak`Its records are named by ${titles.join(speak` and `) || speak`their number`}; that is set in the design of ${target.label}`}
          .
        </p>
      )}
    </>
  );
}

/** How texts that are there are read as what the column becomes. */
function HowItIsRead({ design, column, before }: { design: TableDesign; column: Column; before: Column }) {
  const reading = design.redesign.readings[column.id] ?? {};
  const set = (part: Partial<Reading>) =>
    design.edit((all) => ({ ...all, readings: { ...all.readings, [column.id]: { ...reading, ...part } } }));
  const dates = column.kind === 'date' || column.kind === 'date-time';
  if (before.kind !== 'text' || !(dates || NUMBERS.includes(column.kind))) return null;
  if (dates)
    return (
      <Sentence>{speakIn`Texts there are read as ${(
        <Select
          label={speak`Order of day and month`}
          value={reading.dateOrder ?? 'dmy'}
          choices={[
            { value: 'dmy', label: speak`day, month, year` },
            { value: 'mdy', label: speak`month, day, year` },
          ]}
          onChange={(order) => set({ dateOrder: order === 'mdy' ? 'mdy' : 'dmy' })}
        />
      )}`}</Sentence>
    );
  return (
    <Sentence>{speakIn`In texts there ${(
      <Select
        label={speak`Meaning of the separator`}
        value={reading.decimalSign ?? '.'}
        choices={[
          { value: '.', label: speak`a point comes before decimals` },
          { value: ',', label: speak`a comma comes before decimals` },
        ]}
        onChange={(sign) => set({ decimalSign: sign === ',' ? ',' : '.' })}
      />
    )}`}</Sentence>
  );
}
