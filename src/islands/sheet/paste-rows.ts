import type { RecordValue } from '../../core/expression/value';
import type { FieldQuestion, RowsQuestion } from '../../core/form/design';
import { asRecord, type PickedRecord } from '../../core/form/picked-record';
import { newUuid } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { call } from '../kit/call';
import { lookupAddress } from '../kit/way-in';
import { blockOf } from '../kit/clipboard-block';
import { sayWithUndo } from '../kit/say';
import { givenFor } from './lookup-given';
import type { Hand } from './use-fill';
import { speak } from '../../core/wording/speak';

/**
 * Cells copied from a spreadsheet, with its quotes round those that hold line breaks. The reader of such text
 * is loaded when it is needed.
 */
export async function pasteBlock(
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
  const { left, takeBack } = sheet.paste(
    place,
    block,
    newUuid,
    (question, words) => named.get(`${question}/${words}`) ?? null,
  );
  changed();
  const beyond = left === 0 ? '' : speak`; ${left} beyond the last column left out`;
  sayWithUndo(speak`${block.length} ${block.length === 1 ? speak`row` : speak`rows`} pasted${beyond}`, () => {
    takeBack();
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
    `${lookupAddress(formId, column.id)}/names`,
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
