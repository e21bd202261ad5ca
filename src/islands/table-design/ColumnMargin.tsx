import { ArrowDown, ArrowUp, EyeOff, Trash2 } from '../kit/icons';
import { useState, type ReactNode } from 'react';
import { asKind, changeColumn, keysOf, moveColumn, takeOut } from '../../core/table/edit';
import { keyFor } from '../../core/form/key';
import type { Reading } from '../../core/import/detection';
import { calculatedKinds } from '../../core/record/formulas';
import {
  columnKinds,
  isCalculated,
  personalKinds,
  type Column,
  type ColumnKind,
  type PersonalData,
} from '../../core/table/model';
import { columnWords } from '../../core/wording/change-sentence';
import { issueSentence } from '../../core/wording/issue-sentence';
import { personalWords } from '../../core/wording/proposal-sentence';
import { NumberWord, Sentence, Word } from '../kit/Sentence';
import { ExpressionInput } from '../kit/ExpressionInput';
import { Select } from '../kit/Select';
import { ChoiceLines } from './ChoiceLines';
import type { TableDesign } from './use-table-design';

const NUMBERS: readonly ColumnKind[] = ['whole', 'decimal', 'money'];
const kindChoices = columnKinds.map((value) => ({ value, label: columnWords({ kind: value }) }));

/** The column in hand, as sentences. */
export function ColumnMargin({ design, column }: { design: TableDesign; column: Column }) {
  const change = (part: Partial<Column>) => design.editTable((table) => changeColumn(table, column.id, part));
  const there = design.columnThere(column.id);
  const isWorkedOut = isCalculated(column);
  const kindsOffered = isWorkedOut
    ? kindChoices.filter(({ value }) => calculatedKinds.has(value))
    : kindChoices;
  return (
    <>
      <section className="margin-part first" aria-label="The column">
        <textarea
          aria-label="Name of the column"
          rows={1}
          className="mb-2 field-sizing-content w-full resize-none rounded border border-slate-300 bg-white px-1.5 py-0.5 font-semibold"
          value={column.label}
          maxLength={200}
          onChange={(event) => change(relabelled(design, column, event.target.value.replaceAll('\n', ' ')))}
        />
        <Sentence>
          A{' '}
          <Select
            label="Kind of the column"
            value={column.kind}
            choices={kindsOffered}
            onChange={(kind) => change(asKind(column, kind as ColumnKind))}
          />{' '}
          called <KeyWord design={design} column={column} />
        </Sentence>
        {calculatedKinds.has(column.kind) && (
          <Sentence>
            It is{' '}
            {there === null ? (
              <Select
                label="Filled or worked out"
                value={isWorkedOut ? 'worked-out' : 'filled'}
                choices={[
                  { value: 'filled', label: 'filled in' },
                  { value: 'worked-out', label: 'worked out from other columns' },
                ]}
                // Nothing is written yet, and that is said.
                onChange={(value) => change({ formula: value === 'filled' ? '' : ' ' })}
              />
            ) : (
              <strong>{isWorkedOut ? 'worked out from other columns' : 'filled in'}</strong>
            )}
          </Sentence>
        )}
        {isWorkedOut ? (
          <Formula design={design} column={column} change={change} />
        ) : (
          <Demands column={column} change={change} />
        )}
        <KindSettings design={design} column={column} change={change} />
        {!isWorkedOut && there !== null && there.kind !== column.kind && (
          <HowItIsRead design={design} column={column} before={there} />
        )}
        <Troubles design={design} column={column} />
        <Moves design={design} column={column} isThere={there !== null} />
      </section>
      <section className="margin-part" aria-label="What it holds">
        <Sentence>
          <EyeOff size={14} aria-hidden className="text-plum" />
          It holds{' '}
          <Select
            label="Data about people"
            value={column.personal ?? 'none'}
            choices={[
              { value: 'none', label: 'nothing about people' },
              ...personalKinds.map((value) => ({ value, label: personalWords[value] })),
            ]}
            onChange={(value) => change({ personal: value === 'none' ? null : (value as PersonalData) })}
          />
        </Sentence>
        <Labelled words="What it holds, shown wherever the column is">
          <textarea
            rows={2}
            className="box text-[14px]"
            maxLength={2_000}
            value={column.description}
            onChange={(event) => change({ description: event.target.value })}
          />
        </Labelled>
        <Labelled words="For example">
          <input
            className="box text-[14px]"
            maxLength={200}
            value={column.example}
            onChange={(event) => change({ example: event.target.value })}
          />
        </Labelled>
      </section>
      <p className="margin-part">
        <button type="button" className="button-plain" onClick={() => design.select(null)}>
          Settings of the table
        </button>
      </p>
    </>
  );
}

/** What a column demands of its records. */
function Demands({ column, change }: Omit<SettingsProps, 'design'>) {
  return (
    <>
      <Sentence>
        which{' '}
        <Select
          label="Must it be filled"
          value={column.required ? 'yes' : 'no'}
          choices={[
            { value: 'no', label: 'may stay empty' },
            { value: 'yes', label: 'must be filled' },
          ]}
          onChange={(value) => change({ required: value === 'yes' })}
        />{' '}
        and{' '}
        <Select
          label="May it repeat"
          value={column.unique ? 'yes' : 'no'}
          choices={[
            { value: 'no', label: 'may be the same in several records' },
            { value: 'yes', label: 'must be different in every record' },
          ]}
          onChange={(value) => change({ unique: value === 'yes' })}
        />
      </Sentence>
      <Sentence>
        and{' '}
        <Select
          label="Who writes it"
          value={column.locked ? 'locked' : 'open'}
          choices={[
            { value: 'open', label: 'may be typed in the table' },
            { value: 'locked', label: 'is written by forms and imports alone' },
          ]}
          onChange={(value) => change({ locked: value === 'locked' })}
        />
      </Sentence>
      {column.kind !== 'reference' && (
        <Sentence>
          Where nothing is given it is{' '}
          <Word
            mono
            label="Default, as an expression"
            value={column.default}
            placeholder="left empty"
            onChange={(text) => change({ default: text })}
          />
        </Sentence>
      )}
    </>
  );
}

/** How a calculated column is worked out, as FEEL over the columns beside it. */
function Formula({ design, column, change }: SettingsProps) {
  return (
    <div className="mb-2">
      <ExpressionInput
        label="How it is worked out"
        stored={column.formula.trim() === '' ? '' : column.formula}
        scope={design.scope}
        own={column.key}
        example="received - used"
        onChange={(formula) => change({ formula: formula === '' ? ' ' : formula })}
      />
      <p className="quiet mt-2">
        It is worked out whenever it is looked at, from what the record, what it refers to and its rows hold
        then. Nobody types in it.
      </p>
    </div>
  );
}

const Labelled = ({ words, children }: { words: string; children: ReactNode }) => (
  <label className="mb-2 block text-[13px] text-slate-700">
    {words}
    {children}
  </label>
);

/** The key of a column that is only drawn follows its name. */
function relabelled(design: TableDesign, column: Column, label: string): Partial<Column> {
  const taken = keysOf(design.table);
  taken.delete(column.key);
  const follows =
    design.columnThere(column.id) === null && column.key === keyFor(column.label, taken, 'column');
  return { label, ...(follows && { key: keyFor(label, taken, 'column') }) };
}

/** Half a key would be refused at every letter, so it is taken when it is left. */
function KeyWord({ design, column }: { design: TableDesign; column: Column }) {
  const [typed, setTyped] = useState<string | null>(null);
  const leave = () => {
    if (typed !== null && typed.trim() !== '') {
      const taken = keysOf(design.table);
      taken.delete(column.key);
      design.editTable((table) => changeColumn(table, column.id, { key: keyFor(typed, taken, 'column') }));
    }
    setTyped(null);
  };
  return (
    <span onBlur={leave}>
      <Word
        mono
        label="Key, used in expressions and as the column in the database"
        value={typed ?? column.key}
        onChange={setTyped}
      />
    </span>
  );
}

interface SettingsProps {
  readonly design: TableDesign;
  readonly column: Column;
  readonly change: (part: Partial<Column>) => void;
}

function KindSettings({ design, column, change }: SettingsProps) {
  const unit = (
    <Word
      label="Unit"
      value={column.unit}
      placeholder="no unit"
      onChange={(text) => change({ unit: text.slice(0, 40) })}
    />
  );
  const decimals = (
    <>
      <NumberWord
        label="Decimals"
        value={column.decimals ?? 2}
        most={8}
        onChange={(value) => change({ decimals: value })}
      />{' '}
      decimals
    </>
  );
  switch (column.kind) {
    case 'whole':
      return <Sentence>in {unit}</Sentence>;
    case 'decimal':
      return (
        <Sentence>
          with {decimals}, in {unit}
        </Sentence>
      );
    case 'money':
      return (
        <Sentence>
          with {decimals}, in{' '}
          <Word
            label="Currency"
            value={column.unit}
            placeholder="currency"
            onChange={(text) => change({ unit: text.toUpperCase().slice(0, 3) })}
          />
        </Sentence>
      );
    case 'choice':
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
      <Sentence>
        of{' '}
        <Select
          label="Table it refers to"
          value={column.target}
          placeholder="a table"
          choices={tables.map(({ id, label }) => ({ value: id, label }))}
          onChange={(id) => change({ target: id })}
        />
      </Sentence>
      {target !== undefined && (
        <p className="quiet mb-1.5">
          Its records are named by {titles.join(' and ') || 'their number'}; that is set in the design of{' '}
          {target.label}.
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
      <Sentence>
        Texts there are read as{' '}
        <Select
          label="Order of day and month"
          value={reading.dateOrder ?? 'dmy'}
          choices={[
            { value: 'dmy', label: 'day, month, year' },
            { value: 'mdy', label: 'month, day, year' },
          ]}
          onChange={(order) => set({ dateOrder: order === 'mdy' ? 'mdy' : 'dmy' })}
        />
      </Sentence>
    );
  return (
    <Sentence>
      In texts there{' '}
      <Select
        label="Meaning of the separator"
        value={reading.decimalSign ?? '.'}
        choices={[
          { value: '.', label: 'a point comes before decimals' },
          { value: ',', label: 'a comma comes before decimals' },
        ]}
        onChange={(sign) => set({ decimalSign: sign === ',' ? ',' : '.' })}
      />
    </Sentence>
  );
}

function Troubles({ design, column }: { design: TableDesign; column: Column }) {
  return (
    <div aria-live="polite">
      {design
        .issuesAt(column.id)
        .slice(0, 3)
        .map((issue, i) => (
          <p key={i} className="trouble mb-1.5">
            {issueSentence(issue)}
          </p>
        ))}
    </div>
  );
}

function Moves({ design, column, isThere }: { design: TableDesign; column: Column; isThere: boolean }) {
  return (
    <div className="mt-2 flex gap-2">
      <button
        type="button"
        className="button"
        aria-label="Move it up"
        onClick={() => design.editTable((table) => moveColumn(table, column.id, -1))}
      >
        <ArrowUp size={15} aria-hidden />
      </button>
      <button
        type="button"
        className="button"
        aria-label="Move it down"
        onClick={() => design.editTable((table) => moveColumn(table, column.id, 1))}
      >
        <ArrowDown size={15} aria-hidden />
      </button>
      <button
        type="button"
        className="button button-stop"
        onClick={() => {
          design.editTable((table) => takeOut(table, column.id, isThere));
          design.select(null);
        }}
      >
        <Trash2 size={15} aria-hidden />
        {isThere ? 'Retire it' : 'Take it out'}
      </button>
    </div>
  );
}
