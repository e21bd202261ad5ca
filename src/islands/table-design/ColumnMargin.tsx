import { EyeOff, Lock } from '../kit/icons';
import type { ReactNode } from 'react';
import {
  asKind,
  changeColumn,
  chosenKind,
  keysOf,
  moveColumn,
  takeOut,
  type ChosenKind,
} from '../../core/table/edit';
import { keyFor } from '../../core/form/key';
import { calculatedKinds } from '../../core/record/formulas';
import {
  columnKinds,
  isCalculated,
  personalKinds,
  type Column,
  type PersonalData,
} from '../../core/table/model';
import { columnWords } from '../../core/wording/change-sentence';
import { issueSentence } from '../../core/wording/issue-sentence';
import { personalWords } from '../../core/wording/proposal-sentence';
import { KeyWord, LabelBox, LineMoves } from '../kit/LineSettings';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { ColumnSettings } from './ColumnSettings';
import type { TableDesign } from './use-table-design';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const kindChoices = spoken((): readonly { value: ChosenKind; label: string }[] =>
  columnKinds.flatMap((value) => [
    ...(value === 'reference' ? [{ value: 'person' as const, label: speak`a person` }] : []),
    { value, label: columnWords({ kind: value }) },
  ]),
);

/** The column in hand, as sentences. */
export function ColumnMargin({ design, column }: { design: TableDesign; column: Column }) {
  const change = (part: Partial<Column>) => design.editTable((table) => changeColumn(table, column.id, part));
  const there = design.columnThere(column.id);
  const isWorkedOut = isCalculated(column);
  const mayBeRestricted = column.kind !== 'files' && !design.table.title.includes(column.id);
  const kindsOffered = isWorkedOut
    ? kindChoices().filter(({ value }) => value !== 'person' && calculatedKinds.has(value))
    : kindChoices();
  return (
    <>
      <section className="margin-part first" aria-label={speak`The column`}>
        <div className="mb-2">
          <LabelBox
            label={speak`Name of the column`}
            value={column.label}
            onChange={(label) => change(relabelled(design, column, label))}
          />
        </div>
        <Sentence>{speakIn`Its kind is ${(
          <Select
            label={speak`Kind of the column`}
            value={chosenKind(column)}
            choices={kindsOffered}
            onChange={(kind) => change(asKind(column, kind as ChosenKind))}
          />
        )} and its key ${(
          <KeyWord
            label={speak`Key, used in expressions and as the column in the database`}
            value={column.key}
            onLeave={(typed) => change({ key: keyFor(typed, othersKeys(design, column), 'column') })}
          />
        )}`}</Sentence>
        {calculatedKinds.has(column.kind) && (
          <Sentence>
            {speak`It is`}{' '}
            {there === null ? (
              <Select
                label={speak`Filled or worked out`}
                value={isWorkedOut ? 'worked-out' : 'filled'}
                choices={[
                  { value: 'filled', label: speak`filled in` },
                  { value: 'worked-out', label: speak`worked out from other columns` },
                ]}
                // Nothing is written yet, and that is said.
                onChange={(value) => change({ formula: value === 'filled' ? '' : ' ' })}
              />
            ) : (
              <strong>{isWorkedOut ? speak`worked out from other columns` : speak`filled in`}</strong>
            )}
          </Sentence>
        )}
        <ColumnSettings design={design} column={column} change={change} />
        <Troubles design={design} column={column} />
        <LineMoves
          removal={there === null ? speak`Take it out` : speak`Retire it`}
          onMove={(by) => design.editTable((table) => moveColumn(table, column.id, by))}
          onRemove={() => {
            design.editTable((table) => takeOut(table, column.id, there !== null));
            design.select(null);
          }}
        />
      </section>
      <section className="margin-part" aria-label={speak`What it holds`}>
        <Sentence>
          <EyeOff size={14} aria-hidden className="text-plum" />
          {speakIn`It holds ${(
            <Select
              label={speak`Data about people`}
              value={column.personal ?? 'none'}
              choices={[
                { value: 'none', label: speak`nothing about people` },
                ...personalKinds.map((value) => ({ value, label: personalWords()[value] })),
              ]}
              onChange={(value) => change({ personal: value === 'none' ? null : (value as PersonalData) })}
            />
          )}`}
        </Sentence>
        {there === null && mayBeRestricted && (column.personal !== null || column.restricted) && (
          <Sentence>
            <Lock size={14} aria-hidden className="text-plum" />
            {speakIn`and is seen by ${(
              <Select
                label={speak`Who sees it`}
                value={column.restricted ? 'some' : 'all'}
                choices={[
                  { value: 'all', label: speak`everybody who sees the table` },
                  {
                    value: 'some',
                    label: speak`those who design the table, and whom you name once it is made`,
                  },
                ]}
                onChange={(value) => change({ restricted: value === 'some' })}
              />
            )}`}
          </Sentence>
        )}
        {there?.restricted === true && (
          <p className="quiet">
            <Lock size={13} aria-hidden className="mr-1 inline text-plum" />
            {speak`Restricted: who sees it stands under Who, with the table.`}
          </p>
        )}
        <Labelled words={speak`What it holds, shown wherever the column is`}>
          <textarea
            rows={2}
            className="box text-[14px]"
            maxLength={2_000}
            value={column.description}
            onChange={(event) => change({ description: event.target.value })}
          />
        </Labelled>
        <Labelled words={speak`For example`}>
          <input
            className="box text-[14px]"
            maxLength={200}
            value={column.example}
            onChange={(event) => change({ example: event.target.value })}
          />
        </Labelled>
      </section>
      <p className="margin-part">
        <button
          type="button"
          className="button-plain"
          onClick={() => design.select(null)}
        >{speak`Settings of the table`}</button>
      </p>
    </>
  );
}

const Labelled = ({ words, children }: { words: string; children: ReactNode }) => (
  <label className="mb-2 block text-[13px] text-slate-700">
    {words}
    {children}
  </label>
);

function othersKeys(design: TableDesign, column: Column): Set<string> {
  const taken = keysOf(design.table);
  taken.delete(column.key);
  return taken;
}

/** The key of a column that is only drawn follows its name. */
function relabelled(design: TableDesign, column: Column, label: string): Partial<Column> {
  const taken = othersKeys(design, column);
  const follows =
    design.columnThere(column.id) === null && column.key === keyFor(column.label, taken, 'column');
  return { label, ...(follows && { key: keyFor(label, taken, 'column') }) };
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
