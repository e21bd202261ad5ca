import type { MayEdit } from '../../contract/answers-from-server';
import type { NamedRecords } from '../../contract/record-edits';
import { newUuid } from '../../core/kernel/ids';
import {
  countStaged,
  MOST_STAGED,
  writtenIn,
  type NewRecord,
  type Staged,
  type TypedCell,
} from '../../core/record/staged';
import type { Column } from '../../core/table/model';
import { counted } from '../../core/wording/numbers';
import { call } from '../kit/call';
import { blockOf } from '../kit/clipboard-block';
import { isOpen } from './block-edits';
import { newLine, writtenTo, type GridLine } from './grid-lines';
import type { Lines, Spot } from './grid-spots';
import { speak } from '../../core/wording/speak';

interface Pasting {
  readonly text: string;
  /** Where the block begins. */
  readonly from: Spot;
  readonly lines: readonly GridLine[];
  readonly order: Lines;
  readonly columns: readonly Column[];
  /** Those of them that are not typed in, by id. */
  readonly locked: ReadonlyMap<string, string>;
  /** What a new record here begins with; null where none can be added. */
  readonly fresh: Omit<NewRecord, 'id'> | null;
  readonly may: MayEdit;
  readonly targetKey: (column: Column) => string | null;
}

interface Pasted {
  readonly change: (staged: Staged) => Staged;
  readonly words: string;
}

/**
 * A block of texts over the cells from one on; below the last record, new ones. What names a record is looked
 * up; what names none stays, to be mended.
 */
export async function pasteInto({
  text,
  from,
  lines,
  order,
  columns: all,
  locked,
  fresh,
  may,
  targetKey,
}: Pasting): Promise<Pasted> {
  const block = await blockOf(text);
  const columns = all.slice(order.columns.indexOf(from.column));
  const width = Math.max(0, ...block.map((line) => line.length));
  const named = await recordsIn(block, columns, targetKey);
  const start = lines.findIndex(({ id }) => id === from.row);
  // New records come from the blank line on, whether it stands at the foot or at the head.
  const isNew = lines[start]?.state === 'blank';
  const places = block.map((_, i): GridLine | null => {
    const line = isNew ? undefined : lines[start + i];
    return line === undefined || line.state === 'blank' ? null : line;
  });
  const ids = places.map(() => newUuid());
  const mayWrite = (line: GridLine | null): boolean =>
    line === null || line.state === 'add' ? may.add && fresh !== null : isOpen(line, may);
  const left = places.filter((line) => !mayWrite(line)).length;
  const beyond = Math.max(0, width - columns.length);
  const change = (staged: Staged): Staged => {
    const next = block.reduce((so, texts, i) => {
      const line = places[i] ?? null;
      const of = line ?? (fresh === null ? null : newLine(fresh, ids[i] ?? newUuid()));
      if (of === null || !mayWrite(line)) return so;
      return texts.slice(0, columns.length).reduce((some, one, j) => {
        const column = columns[j];
        return column === undefined || locked.has(column.id)
          ? some
          : writtenTo(some, of, column, named(column, one));
      }, so);
    }, staged);
    return countStaged(next).records > MOST_STAGED ? staged : next;
  };
  const words = [
    ...(left > 0 ? [speak`${counted(left, 'row')} left out: you may not change those`] : []),
    ...(beyond > 0 ? [speak`${counted(beyond, 'column')} beyond the last left out`] : []),
    ...(block.length > MOST_STAGED
      ? [speak`More than ${MOST_STAGED} records at once are imported, not pasted`]
      : []),
  ];
  return { change, words: words.length === 0 ? '' : `${words.join('; ')}.` };
}

/** How a text is written in a column, where references have been looked up, each text once. */
async function recordsIn(
  block: readonly (readonly string[])[],
  columns: readonly Column[],
  targetKey: (column: Column) => string | null,
): Promise<(column: Column, text: string) => TypedCell> {
  const found = new Map<string, TypedCell>();
  for (const [j, column] of columns.entries()) {
    const key = column.kind === 'reference' ? targetKey(column) : null;
    const texts = [...new Set(block.map((line) => (line[j] ?? '').trim()))].filter((one) => one !== '');
    if (key === null || texts.length === 0) continue;
    const result = await call<NamedRecords>('POST', `/api/tables/${key}/pick`, { texts }).catch(() => null);
    if (result?.ok !== true) continue;
    result.value.records.forEach((record, i) => {
      if (record !== null) found.set(`${column.id} ${texts[i]}`, { raw: record.id, title: record.title });
    });
  }
  return (column, text) => found.get(`${column.id} ${text.trim()}`) ?? writtenIn(column, text);
}
