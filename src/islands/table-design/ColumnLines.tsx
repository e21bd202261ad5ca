import { EyeOff, KeyRound, Lock, Plus, RotateCcw, Trash2 } from '../kit/icons';
import { aboutColumn } from '../../core/table/about';
import { addColumns, bringBack, removeForGood } from '../../core/table/edit';
import { toShown } from '../../core/expression/stored-text';
import { hasChoices, isCalculated, recordNumber, type Column } from '../../core/table/model';
import { columnWords } from '../../core/wording/change-sentence';
import { issueSentence } from '../../core/wording/issue-sentence';
import { personalWords } from '../../core/wording/proposal-sentence';
import { newShortId } from '../../core/kernel/ids';
import { NextInput, pastedLines } from '../kit/NextInput';
import type { TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** The columns of the table, a line each; what fills itself stands first. */
export function ColumnLines({ design }: { design: TableDesign }) {
  const { table, others, base } = design;
  const add = (text: string) => {
    const made = pastedLines(text)
      .slice(0, 60)
      .map((label) => ({ id: newShortId(), label }));
    design.editTable((one) => addColumns(one, made));
    design.select(made.at(-1)?.id ?? null);
  };
  return (
    <section aria-label={speak`Columns`}>
      <button
        type="button"
        aria-pressed={design.column === null && design.check === null}
        onClick={() => design.select(null)}
        className={`line w-full text-left ${design.column === null && design.check === null ? 'bg-lichen-soft shadow-[inset_4px_0_0_var(--color-lichen)]' : 'hover:bg-slate-50'}`}
      >
        <span className="gutter">
          <KeyRound size={15} aria-hidden className="ml-auto" />
        </span>
        <span className="flex flex-wrap justify-between gap-x-4">
          <span>
            <span className="font-semibold">{speak`Number`}</span>{' '}
            <span className="quiet block">{speakIn`Who made and changed it, when, and its history come by themselves${
              table.parent !== null &&
              speak`; each row belongs to a record of ${others.get(table.parent)?.label ?? '…'}`
            }`}</span>
          </span>
          <span className="font-mono text-[13px] text-slate-600">
            {table.prefix === '' ? '' : recordNumber(table, new Date().getFullYear(), 1)}
          </span>
        </span>
      </button>
      {table.columns.map((column, i) => (
        <Line key={column.id} design={design} column={column} number={i + 1} />
      ))}
      <div className="line border-b-0">
        <span className="gutter">
          <Plus size={15} aria-hidden className="ml-auto" />
        </span>
        <NextInput
          label={speak`Next column`}
          placeholder={speak`Type the next column — “Received on”, “Height”, “E-mail” — or paste a row of headings`}
          onAdd={add}
        />
      </div>
      {table.retired.length > 0 && (
        <section aria-labelledby="retired" className="border-t border-slate-200 py-3 pr-5 pl-[46px]">
          <h2
            id="retired"
            className="mb-1 font-sans text-[15px] font-semibold text-slate-700"
          >{speak`Retired: hidden, their values kept`}</h2>
          <ul>
            {table.retired.map((column) => (
              <li key={column.id} className="flex flex-wrap items-center gap-x-3 text-[14px] text-slate-700">
                <span>
                  {column.label} <span className="font-mono text-[13px]">{column.key}</span>
                </span>
                <button
                  type="button"
                  className="button-plain"
                  onClick={() => design.editTable((one) => bringBack(one, column.id))}
                >
                  <RotateCcw size={14} aria-hidden />
                  {speak`Bring back`}
                </button>
                {base?.retired.some(({ id }) => id === column.id) === true && (
                  <button
                    type="button"
                    className="button-plain text-rust"
                    onClick={() => design.editTable((one) => removeForGood(one, column.id))}
                  >
                    <Trash2 size={14} aria-hidden />
                    {speak`Remove for good`}
                  </button>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </section>
  );
}

function Line({ design, column, number }: { design: TableDesign; column: Column; number: number }) {
  const inHand = design.selected === column.id;
  const before = design.columnThere(column.id);
  const changed =
    before !== null && design.changes.some((change) => 'column' in change && change.column.id === column.id);
  const [issue] = design.issuesAt(column.id);
  return (
    <button
      type="button"
      aria-pressed={inHand}
      onClick={() => design.select(column.id)}
      className={`line w-full text-left ${inHand ? 'bg-lichen-soft shadow-[inset_4px_0_0_var(--color-lichen)]' : 'hover:bg-slate-50'}`}
    >
      <span className="gutter">{number}</span>
      <span className="grid min-w-0 grid-cols-[minmax(0,1fr)_auto] gap-x-4">
        <span className="min-w-0 break-words">
          {before !== null && before.label !== column.label && (
            <s className="mr-1.5 text-slate-600">{before.label}</s>
          )}
          <span
            className={`font-semibold ${before !== null && before.label !== column.label ? 'marked' : ''}`}
          >
            {column.label || speak`a column without a name`}
          </span>
          {column.required && (
            <span className="ml-1.5 text-rust">
              <span aria-hidden>✱</span>
              <span className="sr-only">{speak`must be filled`}</span>
            </span>
          )}
          {(changed || (before === null && !design.isNew)) && (
            <span className="tag ml-2 bg-marker py-0 text-ink">
              {before === null ? speak`new` : speak`changed`}
            </span>
          )}
        </span>
        <span className="font-mono text-[13px] text-slate-600">{column.key}</span>
        <span className="col-span-2 text-[14px] text-slate-700">
          {wordsOf(design, column)}
          {column.personal !== null && (
            <span className="ml-2 inline-flex items-center gap-1 text-plum">
              <EyeOff size={13} aria-hidden />
              {personalWords()[column.personal]}
            </span>
          )}
          {column.restricted && (
            <span className="ml-2 inline-flex items-center gap-1 text-plum">
              <Lock size={13} aria-hidden />
              {speak`restricted`}
            </span>
          )}
        </span>
        {aboutColumn(column) !== '' && <span className="quiet col-span-2">{aboutColumn(column)}</span>}
        {issue !== undefined && <span className="trouble col-span-2">{issueSentence(issue)}</span>}
      </span>
    </button>
  );
}

function wordsOf({ others, table, scope, columnThere }: TableDesign, column: Column): string {
  const kind =
    column.kind === 'reference'
      ? speak`a record of ${column.target === table.id ? table.label : (others.get(column.target ?? '')?.label ?? '…')}`
      : hasChoices(column)
        ? speak`${column.kind === 'choice' ? speak`one` : speak`some`} of ${column.list === null ? '' : speak`the list ${column.list.label}: `}${
            column.choices
              .filter(({ retired }) => retired !== true)
              .slice(0, 4)
              .map(({ label }) => label)
              .join(', ') || '…'
          }${column.choices.length > 4 ? ' …' : ''}`
        : columnWords(column);
  const before = columnThere(column.id);
  return [
    before === null || before.kind === column.kind ? kind : speak`${kind}, until now ${columnWords(before)}`,
    column.decimals !== null && column.kind !== 'whole'
      ? column.decimals === 0
        ? speak`no decimals`
        : `${column.decimals} ${column.decimals === 1 ? speak`decimal` : speak`decimals`}`
      : '',
    column.unit,
    column.unique ? speak`different in every record` : '',
    isCalculated(column) ? speak`worked out: ${toShown(column.formula, scope).trim() || '…'}` : '',
    column.default === '' ? '' : speak`${column.default} where nothing is given`,
    column.locked ? speak`written by forms and imports alone` : '',
    table.title.includes(column.id) ? speak`names the record` : '',
  ]
    .filter((one) => one !== '')
    .join(' · ');
}
