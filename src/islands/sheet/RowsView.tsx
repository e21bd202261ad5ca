import { Copy, X } from '../kit/icons';
import { lazy, memo, useState, type ClipboardEvent, type CSSProperties } from 'react';
import { columnKindOf } from '../../core/form/column-kind';
import { isFixedOnChange } from '../../core/form/use';
import { isTyped, rowLetter, type FieldQuestion, type RowsQuestion } from '../../core/form/design';
import { shown, type RowState } from '../../core/form/cells';
import { asRecord, type PickedRecord } from '../../core/form/picked-record';
import type { RecordValue } from '../../core/expression/value';
import { TotalsFoot } from './TotalsFoot';
import { limits } from '../../core/limits';
import { call } from '../kit/call';
import { blockOf, textOf } from '../kit/clipboard-block';
import { sayWithUndo } from '../kit/say';
import { Control } from './Control';
import { newUuid } from '../../core/kernel/ids';
import { sameIssues, type Filling, type Hand, type ShownIssue } from './use-fill';
import { useCells } from './use-cells';
import { Later } from '../kit/Awake';
import { focusCell, pressed } from './row-keys';
import { givenFor } from './lookup-given';
import { controlId } from './sheet-model';
import { Troubles, troubleId } from './Troubles';

const RowMenu = lazy(() => import('./RowMenu').then((module) => ({ default: module.RowMenu })));

const numeric = (question: FieldQuestion): boolean =>
  ['whole', 'decimal', 'money'].includes(columnKindOf(question));
export const headingOf = (question: { label: string; unit?: string }): string =>
  question.unit ? `${question.label}, ${question.unit}` : question.label;

/** So many rows are laid out each by itself, and only those in sight are drawn. */
const LONG = 60;
const columnsOf = ({ columns }: RowsQuestion): string =>
  ['2.5rem', ...columns.map((column) => `minmax(0, ${numeric(column) ? 1 : 2}fr)`), '2.5rem'].join(' ');

/** Repeating rows: a typed row is a row, and the last one is always there to type in. */
export function RowsView({ group, fill }: { group: RowsQuestion; fill: Filling }) {
  const rows = fill.sheet.rows(group.id);
  const isLong = rows.length > LONG;
  return (
    <div
      id={controlId([group.id])}
      role="presentation"
      tabIndex={-1}
      className="relative overflow-x-auto"
      onKeyDown={(event) => pressed(event, group, fill.hand)}
    >
      <table
        className={`grid-table rows-table sm:min-w-[560px] ${isLong ? 'rows-long' : ''}`}
        {...(isLong && { style: { '--columns': columnsOf(group) } as CSSProperties })}
      >
        <thead>
          <tr>
            <th className="w-8 min-w-8!">
              <span className="sr-only">Row</span>
            </th>
            {group.columns.map((column) => (
              <th key={column.id} className={numeric(column) ? 'text-right!' : ''}>
                {headingOf(column)}
                {column.required && isTyped(column) && <Asterisk />}
              </th>
            ))}
            <th className="w-9 min-w-9!">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <RowLine
              key={row.id}
              group={group}
              row={row}
              letter={rowLetter(i)}
              hand={fill.hand}
              troubles={group.columns.flatMap(({ id }) => fill.shownAt([group.id, row.id, id]))}
            />
          ))}
        </tbody>
        <TotalsFoot group={group} sheet={fill.sheet} live />
      </table>
      {fill.sheet.filledRows(group.id).length > 0 && <CopyRows group={group} sheet={fill.sheet} />}
    </div>
  );
}

/** The rows as a spreadsheet takes them: with their headings, as people read them. */
function CopyRows({ group, sheet }: { group: RowsQuestion; sheet: Filling['sheet'] }) {
  const [words, setWords] = useState('');
  const copy = async () => {
    const rows = sheet.filledRows(group.id);
    const cells = rows.map((row) =>
      group.columns.map((column) => shown(column, row.values.get(column.id) ?? null)),
    );
    const text = textOf([group.columns.map(headingOf), ...cells]);
    const copied = await navigator.clipboard.writeText(text).then(
      () => true,
      () => false,
    );
    setWords(
      copied
        ? `${rows.length} ${rows.length === 1 ? 'row' : 'rows'} copied, with headings`
        : 'This browser does not let us copy',
    );
  };
  return (
    <p className="mt-1 flex items-center gap-3">
      <button type="button" className="button-plain text-[13px]" onClick={() => void copy()}>
        <Copy size={14} aria-hidden />
        Copy the rows
      </button>
      <span role="status" className="quiet">
        {words}
      </span>
    </p>
  );
}

export const Asterisk = () => (
  <span className="mx-1 text-rust" title="must be filled">
    <span aria-hidden>✱</span>
    <span className="sr-only"> (must be filled)</span>
  </span>
);

interface RowProps {
  readonly group: RowsQuestion;
  readonly row: RowState;
  readonly letter: string;
  readonly hand: Hand;
  /** What is wrong in it and is to be seen. */
  readonly troubles: readonly ShownIssue[];
}

const RowLine = memo(Row, (a, b) => {
  const { troubles: before, ...was } = a;
  const { troubles: now, ...is } = b;
  return (
    sameIssues(before, now) &&
    was.row === is.row &&
    was.letter === is.letter &&
    was.hand === is.hand &&
    was.group === is.group
  );
});

function Row({ group, row, letter, hand, troubles: wrong }: RowProps) {
  const { sheet, changed } = hand;
  useCells(
    sheet,
    group.columns.map(({ id }) => [group.id, row.id, id] as const),
  );
  const blank = [...row.raw.values()].every((raw) => raw === null || raw === '');
  const troubles = blank ? [] : wrong;
  const remove = () => {
    const removed = sheet.removeRow(group.id, row.id);
    changed();
    if (removed)
      sayWithUndo(`Row ${letter} removed`, () => {
        sheet.insertRow(group.id, removed.row, removed.at);
        changed();
      });
  };
  const place = (): number => sheet.rows(group.id).findIndex(({ id }) => id === row.id);
  const move = (by: 1 | -1) => {
    sheet.moveRow(group.id, row.id, place() + by);
    changed();
  };
  const duplicate = () => {
    // Files stay with the row they were brought to.
    const files = new Set(group.columns.flatMap(({ id, kind }) => (kind === 'files' ? [id] : [])));
    const cells = Object.fromEntries([...row.raw].filter(([id]) => !files.has(id)));
    const id = newUuid();
    sheet.insertRow(group.id, { id, cells }, place() + 1);
    changed();
    const [first] = group.columns;
    if (first !== undefined) requestAnimationFrame(() => focusCell([group.id, id, first.id]));
  };
  return (
    <>
      <tr>
        <td className="p-1! font-mono text-[13px] text-slate-600">
          {blank ? (
            <span className="px-1">{letter}</span>
          ) : (
            <Later likeness={<span className="px-1">{letter}</span>}>
              {() => (
                <RowMenu
                  letter={letter}
                  onDuplicate={sheet.filledRows(group.id).length < group.most ? duplicate : null}
                  onMove={move}
                  onRemove={remove}
                />
              )}
            </Later>
          )}
        </td>
        {group.columns.map((column) => (
          <Cell
            key={column.id}
            group={group}
            row={row}
            column={column}
            letter={letter}
            hand={hand}
            isBlank={blank}
            isWrong={wrong.some(({ path }) => path[2] === column.id)}
          />
        ))}
        <td>
          {!blank && (
            <button
              type="button"
              onClick={remove}
              aria-label={`Remove row ${letter}`}
              className="rounded p-1 hover:bg-slate-100"
            >
              <X size={15} aria-hidden />
            </button>
          )}
        </td>
      </tr>
      {troubles.length > 0 && (
        <tr>
          <td colSpan={group.columns.length + 2} className="pt-0!">
            <Troubles issues={troubles} prefix={`${letter} · `} />
          </td>
        </tr>
      )}
    </>
  );
}

/** Cells copied from a spreadsheet, with its quotes round those that hold line breaks. The reader of such text is loaded when it is needed. */
async function pasteBlock(
  hand: Hand,
  group: RowsQuestion,
  place: readonly [string, string, string],
  text: string,
): Promise<void> {
  const { sheet, changed } = hand;
  const block = await blockOf(text);
  const from = group.columns.findIndex(({ id }) => id === place[2]);
  const named = new Map<string, RecordValue | null>();
  for (const [i, column] of group.columns.slice(from).entries())
    if (column.kind === 'lookup')
      for (const [words, record] of await recordsOf(
        column,
        block.map((line) => line[i] ?? ''),
        [place[0], place[1]],
        hand,
      ))
        named.set(`${column.id}/${words}`, record);
  const left = sheet.paste(
    place,
    block,
    newUuid,
    (question, words) => named.get(`${question}/${words}`) ?? null,
  );
  changed();
  const beyond = left === 0 ? '' : `; ${left} beyond the last column left out`;
  sayWithUndo(`${block.length} ${block.length === 1 ? 'row' : 'rows'} pasted${beyond}`, () => {
    sheet.undo();
    changed();
  });
}

/** The records that pasted texts name; without a connection none are found, and the texts stay to be fixed. */
async function recordsOf(
  column: Extract<FieldQuestion, { kind: 'lookup' }>,
  cells: readonly string[],
  row: readonly [string, string],
  { formId, submission, sheet, model: { tables } }: Hand,
): Promise<Map<string, RecordValue | null>> {
  const texts = [...new Set(cells.map((cell) => cell.trim()))].filter((words) => words !== '');
  const table = tables.get(column.table);
  const found = await call<{ records: (PickedRecord | null)[] }>(
    'POST',
    `/api/forms/${formId}/lookups/${column.id}/names`,
    { texts: texts.slice(0, limits.rows), submission, given: givenFor(sheet, column, row) },
  ).catch(() => null);
  const records = found?.ok === true ? found.value.records : [];
  return new Map(
    texts.map((words, i) => {
      const record = records[i];
      return [words, record ? asRecord(record, table) : null];
    }),
  );
}

interface CellProps {
  readonly group: RowsQuestion;
  readonly row: RowState;
  readonly column: FieldQuestion;
  readonly letter: string;
  readonly hand: Hand;
  readonly isBlank: boolean;
  readonly isWrong: boolean;
}

const Cell = memo(function Cell({ group, row, column, letter, hand, isBlank, isWrong }: CellProps) {
  const { sheet } = hand;
  const path = [group.id, row.id, column.id] as const;
  useCells(sheet, [path]);
  if (!sheet.isAsked(path))
    return (
      <td
        data-label={headingOf(column)}
        className="bg-slate-50 text-center text-slate-600"
        title="Not asked in this row"
      >
        –
      </td>
    );
  if (!isTyped(column) || (hand.isChange && isFixedOnChange(column)))
    return (
      <td
        data-label={headingOf(column)}
        className={`bg-slate-50 ${numeric(column) ? 'tabular text-right' : ''}`}
      >
        {(isBlank ? '' : shown(column, row.values.get(column.id) ?? null)) || '—'}
      </td>
    );
  const paste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text/plain');
    if (!/[\t\n]/.test(text.trim())) return;
    event.preventDefault();
    void pasteBlock(hand, group, path, text);
  };
  return (
    <td
      data-label={headingOf(column)}
      onPaste={paste}
      className={`p-1! ${isWrong ? 'ring-2 ring-rust ring-inset' : ''}`}
    >
      <Control
        question={column}
        place={path}
        sheet={sheet}
        formId={hand.formId}
        submission={hand.submission}
        tables={hand.model.tables}
        bare
        name={`${column.label}, row ${letter}`}
        invalid={isWrong}
        describedBy={isWrong ? troubleId(path) : undefined}
        onChange={hand.changed}
        onTouch={() => hand.touch(path)}
        device={hand.device}
        onComing={hand.coming}
      />
    </td>
  );
});
