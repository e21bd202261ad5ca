import type { AddRecord, RecordEdit } from '../../core/record/edit';
import type { MappedColumn } from '../../core/link/link';
import type { Tx } from '../../data/connect';
import { nextValues } from '../../data/introspect';
import { secretOf, SecretLost, SourceAway } from '../../data/runtime/links/open-source';
import { linksAmong, type SourceRow } from '../../data/system/links';
import { reachable } from '../../outside/reach';

/**
 * Fills in what the source of a linked table makes by itself, its ids above all: asked for beforehand, for
 * what is sent must be what stands here. A value that was asked for and not used is a gap in the numbering
 * there, as PostgreSQL itself leaves them.
 */
export async function withMadeValues(
  tx: Tx,
  linked: readonly string[],
  edits: readonly RecordEdit[],
): Promise<readonly RecordEdit[]> {
  let filled = edits;
  for (const { link, source } of await linksAmong(tx, linked)) {
    const { mapping, tableId } = link;
    if (mapping.t !== 'table') continue;
    for (const column of mapping.columns) filled = await withValues(filled, tableId, column, source);
  }
  return filled;
}

async function withValues(
  edits: readonly RecordEdit[],
  table: string,
  { column, made = null }: MappedColumn,
  source: SourceRow,
): Promise<readonly RecordEdit[]> {
  const lacks = (edit: RecordEdit): edit is AddRecord =>
    edit.t === 'add' && edit.table === table && (edit.values[column] ?? null) === null;
  const many = edits.filter(lacks).length;
  if (made === null || many === 0) return edits;
  const values =
    made.t === 'uuid'
      ? Array.from({ length: many }, () => crypto.randomUUID() as string)
      : await asked(source, made.name, many);
  let next = 0;
  return edits.map((edit) => {
    if (!lacks(edit)) return edit;
    const value = values[next++] ?? null;
    return { ...edit, values: { ...edit.values, [column]: value } };
  });
}

async function asked({ address, ...source }: SourceRow, sequence: string, many: number): Promise<string[]> {
  const secret = secretOf(source);
  if (secret === null) throw new SecretLost();
  if (address.t !== 'database') return [];
  const at = await reachable(address.host);
  if (at === 'inside' || at === null) throw new SourceAway();
  return nextValues({ ...address, host: at.address }, secret, sequence, many).catch((error: unknown) => {
    throw new SourceAway(`the next of ${sequence}`, { cause: error });
  });
}
