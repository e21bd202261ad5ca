import { memo } from 'react';
import { comparedInForm, existingSentence } from '../../core/check/existing';
import { messageShown } from '../../core/check/message';
import type { Check, ExistingCheck } from '../../core/check/check';
import { toShown } from '../../core/expression/stored-text';
import { checksOfTables } from '../../core/form/checks-of-tables';
import { homeOf, type CalculatedQuestion, type RowsQuestion } from '../../core/form/design';
import { tableScope } from '../../core/record/table-scope';
import { counted } from '../../core/wording/numbers';
import { CheckTag, ConditionWords } from '../kit/CheckWords';
import { Equal, Trash2 } from '../kit/icons';
import { Marked } from './Marked';
import { Troubles } from './Troubles';
import { filledBy } from '../../core/form/filled-by-rules';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export const groupAt = (bench: Workbench, id: string): RowsQuestion | undefined =>
  homeOf(bench.design, id) ?? undefined;

interface InHand {
  readonly bench: Workbench;
  readonly inHand: boolean;
  readonly onPick: () => void;
}

const lineClass = (inHand: boolean): string =>
  `line relative ${inHand ? 'bg-lichen-soft before:absolute before:inset-y-0 before:left-0 before:w-1 before:bg-lichen' : ''}`;

export function CalculationLine({
  bench,
  question,
  inHand,
  onPick,
}: InHand & { question: CalculatedQuestion }) {
  const group = groupAt(bench, question.id);
  const rules = filledBy(bench.design, question.id);
  return (
    <li className={lineClass(inHand)}>
      <span className="gutter">{bench.numbers.get(question.id)}</span>
      <div>
        <button
          type="button"
          aria-pressed={inHand}
          onClick={onPick}
          className="block w-full rounded text-left"
        >
          {speakIn`${group && speak`Each row: `}${(<span className="name">{question.key}</span>)} is`}{' '}
          {rules === undefined ? (
            <span className="name font-mono text-[14px]">
              {toShown(question.expression, bench.scope(group)) || '…'}
            </span>
          ) : (
            speak`what the rules “${rules.label}” say`
          )}
        </button>
        <p className="mt-0.5">
          <span className="tag bg-lichen-soft text-lichen-deep">
            <Equal size={14} aria-hidden />
            {speak`Calculates`}
          </span>{' '}
          <span className="quiet">{speak`to ${counted(question.decimals, 'decimal')}, half up`}</span>
          <Marked bench={bench} id={question.id} />
        </p>
      </div>
    </li>
  );
}

export function CheckLine({ bench, check, inHand, onPick }: InHand & { check: Check }) {
  const scope = bench.scope(groupAt(bench, check.on));
  return (
    <li className={lineClass(inHand)}>
      <span className="gutter">{bench.numbers.get(check.on)}</span>
      <div>
        <button
          type="button"
          aria-pressed={inHand}
          onClick={onPick}
          className="block w-full rounded text-left"
        >
          {groupAt(bench, check.on) && speak`Each row: `}
          <ConditionWords must={check.must} scope={scope} />
        </button>
        <p className="mt-0.5 flex flex-wrap items-center gap-2">
          <CheckTag otherwise={check.otherwise} message={messageShown(check.message, scope)} />
          <Marked bench={bench} id={check.id} />
        </p>
        <Troubles bench={bench} id={check.id} />
      </div>
    </li>
  );
}

/** What the tables this form writes to demand of it: designed there, and asked here without being written again. */
export const ChecksOfTables = memo(function ChecksOfTables({ bench }: { bench: Workbench }) {
  const found = checksOfTables(bench.design, bench.tables);
  if (found.length === 0) return null;
  return (
    <ul aria-label={speak`Checks of the tables this form writes to`}>
      {found.map(({ check, table, group }) => (
        <li key={check.id} className="line">
          <span className="gutter">{bench.numbers.get(check.on)}</span>
          <div>
            <p>
              {group !== null && speak`Each row: `}
              <ConditionWords must={check.must} scope={tableScope(table, bench.tables)} />
            </p>
            <p className="mt-0.5 flex flex-wrap items-center gap-2">
              <CheckTag otherwise={check.otherwise} message={check.message} />{' '}
              <a
                href={`/tables/${table.key}/design`}
                className="text-[14px] text-slate-700"
              >{speak`from the table ${table.label}`}</a>
            </p>
            <Troubles bench={bench} id={check.id} />
          </div>
        </li>
      ))}
    </ul>
  );
});

/** What must hold among the records there are; the database decides it when a record is kept. */
export function ExistingLine({ bench, check }: { bench: Workbench; check: ExistingCheck }) {
  const takeOut = () =>
    bench.edit((design) => ({
      ...design,
      existing: (design.existing ?? []).filter(({ id }) => id !== check.id),
    }));
  return (
    <li className="line">
      <span className="gutter">{bench.numbers.get(check.on)}</span>
      <div>
        <p>{speak`Among all records, ${existingSentence(check, comparedInForm(bench.design, check))}`}</p>
        <p className="mt-0.5 flex flex-wrap items-center gap-2">
          <CheckTag otherwise="stop" message={check.message} /> <Marked bench={bench} id={check.id} />
          <button type="button" className="button-plain" onClick={takeOut}>
            <Trash2 size={14} aria-hidden />
            {speak`Take it out`}
          </button>
        </p>
        <Troubles bench={bench} id={check.id} />
      </div>
    </li>
  );
}
