import { isPhoto } from '../../core/form/file';
import { filesIn } from '../../core/form/files-in';
import type { Sheet } from '../../core/form/sheet';
import { issue, type Issue } from '../../core/kernel/issue';
import type { RecordEdit } from '../../core/record/edit';
import { listStored } from '../../core/table/kinds/stored-list';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { factsOf, keepFiles, sendFiles } from '../../data/system/files';

/**
 * The files of a sheet go with it when it is sent, but for those that `before`, the sheet of the record it
 * changes, has; those that are not there, are somebody else's or are no photos where those are asked for are
 * told at their places.
 */
export async function filesGoWith(
  tx: Tx,
  submission: string,
  sheet: Sheet,
  before: Sheet | null,
): Promise<Issue[]> {
  const there = new Set(before === null ? [] : filesIn(before).flatMap(({ ids }) => ids));
  const all = filesIn(sheet).map((one) => ({ ...one, ids: one.ids.filter((id) => !there.has(id)) }));
  const ids = all.flatMap((one) => one.ids);
  if (ids.length === 0) return [];
  const lost = new Set(await sendFiles(tx, submission, ids));
  const types = new Map((await factsOf(tx, ids)).map(({ id, type }) => [id, type]));
  const fits = (what: 'photos' | 'files', id: string): boolean =>
    what === 'files' || isPhoto(types.get(id) ?? '');
  return all.flatMap(({ question, place, ids: own }) => {
    const facts = { label: question.label };
    if (own.some((id) => lost.has(id))) return [issue('file-gone', [...place], facts)];
    return own.every((id) => fits(question.what, id)) ? [] : [issue('not-a-photo', [...place], facts)];
  });
}

/** The files that records are given are kept in them; each belongs to one. Issues at `[record, column]`. */
export async function filesKept(
  tx: Tx,
  tables: ReadonlyMap<string, Table>,
  edits: readonly RecordEdit[],
): Promise<Issue[]> {
  const issues: Issue[] = [];
  for (const edit of edits) {
    if (!('values' in edit)) continue;
    for (const column of tables.get(edit.table)?.columns ?? []) {
      const stored = column.kind === 'files' ? edit.values[column.id] : null;
      const ids = typeof stored === 'string' ? (listStored(stored) ?? []) : [];
      if (ids.length > 0 && (await keepFiles(tx, edit.table, edit.id, ids)).length > 0)
        issues.push(issue('file-gone', [edit.id, column.id], { label: column.label }));
    }
  }
  return issues;
}
