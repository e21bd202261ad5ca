import { X } from '../kit/icons';
import type { ClipboardEvent } from 'react';
import { calculatedKind } from '../../core/form/scope';
import { isTyped, rowLetter, type FieldQuestion, type RowsQuestion } from '../../core/form/design';
import { shown, type RowState } from '../../core/form/cells';
import { asRecord, type PickedRecord } from '../../core/form/picked-record';
import type { RecordValue } from '../../core/expression/value';
import { limits } from '../../core/limits';
import { call } from '../kit/call';
import { sayWithUndo } from '../kit/Toasts';
import { Control } from './Control';
import { newId, type Filling } from './use-fill';
import { controlId } from './sheet-model';
import { Troubles, troubleId } from './Troubles';

const numeric = (question: FieldQuestion): boolean =>
  ['whole', 'decimal', 'money'].includes(
    question.kind === 'calculated' ? calculatedKind(question) : question.kind,
  );
export const headingOf = (question: { label: string; unit?: string }): string =>
  question.unit ? `${question.label}, ${question.unit}` : question.label;

/** Repeating rows: a typed row is a row, and the last one is always there to type in. */
export function RowsView({ group, fill }: { group: RowsQuestion; fill: Filling }) {
  const rows = fill.sheet.rows(group.id);
  return (
    <div id={controlId([group.id])} tabIndex={-1} className="relative overflow-x-auto">
      <table className="grid-table rows-table sm:min-w-[560px]">
        <thead>
          <tr>
            <th className="w-8">
              <span className="sr-only">Row</span>
            </th>
            {group.columns.map((column) => (
              <th key={column.id} className={numeric(column) ? 'text-right!' : ''}>
                {headingOf(column)}
                {column.required && isTyped(column) && <Asterisk />}
              </th>
            ))}
            <th className="w-9">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <RowLine key={row.id} group={group} row={row} letter={rowLetter(i)} fill={fill} />
          ))}
        </tbody>
        {group.totals.length > 0 && (
          <tfoot>
            <tr>
              <td className="border-0!" />
              {group.columns.map((column) => {
                const total = group.totals.find((one) => one.column === column.id);
                return (
                  <td key={column.id} className="tabular border-0! text-right font-semibold">
                    {total && (
                      <>
                        <span className="mr-3">{total.label}</span>
                        <span aria-live="polite">{totalText(fill, total.id, column)}</span>
                      </>
                    )}
                  </td>
                );
              })}
              <td className="border-0!" />
            </tr>
          </tfoot>
        )}
      </table>
    </div>
  );
}

const totalText = (fill: Filling, id: string, column: FieldQuestion): string =>
  shown(
    column.kind === 'calculated' ||
      column.kind === 'decimal' ||
      column.kind === 'whole' ||
      column.kind === 'money'
      ? column
      : { ...column, kind: 'calculated', expression: '', decimals: 0, unit: '' },
    fill.sheet.value([id]),
  ) || '—';

export const Asterisk = () => (
  <span className="ml-1 text-rust" title="must be filled">
    <span aria-hidden>✱</span>
    <span className="sr-only"> (must be filled)</span>
  </span>
);

function RowLine({
  group,
  row,
  letter,
  fill,
}: {
  group: RowsQuestion;
  row: RowState;
  letter: string;
  fill: Filling;
}) {
  const blank = [...row.raw.values()].every((raw) => raw === null || raw === '');
  const troubles = blank
    ? []
    : group.columns.flatMap((column) => fill.shownAt([group.id, row.id, column.id]));
  const remove = () => {
    const removed = fill.sheet.removeRow(group.id, row.id);
    fill.changed();
    if (removed)
      sayWithUndo(`Row ${letter} removed`, () => {
        fill.sheet.insertRow(group.id, removed.row, removed.at);
        fill.changed();
      });
  };
  return (
    <>
      <tr>
        <td className="font-mono text-[13px] text-slate-600">{letter}</td>
        {group.columns.map((column) => (
          <Cell
            key={column.id}
            group={group}
            row={row}
            column={column}
            letter={letter}
            fill={fill}
            isBlank={blank}
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
  { sheet, changed, data, model }: Filling,
  group: RowsQuestion,
  place: readonly [string, string, string],
  text: string,
): Promise<void> {
  const { default: papaparse } = await import('papaparse');
  const block = papaparse.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t' }).data;
  const from = group.columns.findIndex(({ id }) => id === place[2]);
  const named = new Map<string, RecordValue | null>();
  for (const [i, column] of group.columns.slice(from).entries())
    if (column.kind === 'lookup')
      for (const [words, record] of await recordsOf(
        column,
        block.map((line) => line[i] ?? ''),
        data,
        model,
      ))
        named.set(`${column.id}/${words}`, record);
  const left = sheet.paste(
    place,
    block,
    newId,
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
  { formId, submission }: Filling['data'],
  { tables }: Filling['model'],
): Promise<Map<string, RecordValue | null>> {
  const texts = [...new Set(cells.map((cell) => cell.trim()))].filter((words) => words !== '');
  const table = tables.get(column.table);
  const found = await call<{ records: (PickedRecord | null)[] }>(
    'POST',
    `/api/forms/${formId}/lookups/${column.id}`,
    { texts: texts.slice(0, limits.rows), submission: submission?.id ?? null },
  ).catch(() => null);
  const records = found?.ok === true ? found.value.records : [];
  return new Map(
    texts.map((words, i) => {
      const record = records[i];
      return [words, record ? asRecord(record, table) : null];
    }),
  );
}

function Cell({
  group,
  row,
  column,
  letter,
  fill,
  isBlank,
}: {
  group: RowsQuestion;
  row: RowState;
  column: FieldQuestion;
  letter: string;
  fill: Filling;
  isBlank: boolean;
}) {
  if (!fill.sheet.isAsked([group.id, row.id, column.id]))
    return (
      <td
        data-label={headingOf(column)}
        className="bg-slate-50 text-center text-slate-600"
        title="Not asked in this row"
      >
        –
      </td>
    );
  if (!isTyped(column))
    return (
      <td
        data-label={headingOf(column)}
        className={`bg-slate-50 ${numeric(column) ? 'tabular text-right' : ''}`}
      >
        {(isBlank ? '' : shown(column, row.values.get(column.id) ?? null)) || '—'}
      </td>
    );
  const path = [group.id, row.id, column.id] as const;
  const troubles = fill.shownAt(path);
  const paste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text/plain');
    if (!/[\t\n]/.test(text.trim())) return;
    event.preventDefault();
    void pasteBlock(fill, group, path, text);
  };
  return (
    <td
      data-label={headingOf(column)}
      onPaste={paste}
      className={`p-1! ${troubles.length > 0 ? 'ring-2 ring-rust ring-inset' : ''}`}
    >
      <Control
        question={column}
        place={path}
        sheet={fill.sheet}
        formId={fill.data.formId}
        submission={fill.data.submission?.id ?? null}
        tables={fill.model.tables}
        bare
        name={`${column.label}, row ${letter}`}
        invalid={troubles.length > 0}
        describedBy={troubles.length > 0 ? troubleId(path) : undefined}
        onChange={fill.changed}
        onTouch={() => fill.touch(path)}
      />
    </td>
  );
}
