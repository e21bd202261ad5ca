import type { FoundPerson, FoundTable } from '../../contract/one-person';
import type { Refusal } from '../../core/kernel/refusal';
import { ok, type Result } from '../../core/kernel/result';
import { erasable, keptUntil, personalColumns } from '../../core/personal/erased';
import type { Table } from '../../core/table/model';
import { recordsWith, type WholeRecord } from '../../data/runtime/records/one-person';
import { notePersonal, unkeptWith, wholeSubmissions } from '../../data/system/one-person';
import type { Context } from '../workspace/asking';
import { asAdministrator, dayOf, tablesWith } from './one-person';

const MOST_FOUND = 50;

/**
 * Where something stands about whoever these words name, in every table, for administrators, whatever they see
 * else. That somebody looked is noted; what was looked for is not.
 */
export function findPerson(context: Context, text: string): Promise<Result<FoundPerson, Refusal>> {
  const words = text.split(/\s+/).filter((word) => word !== '');
  return asAdministrator(context, async (tx, catalogue) => {
    const tables: FoundTable[] = [];
    for (const table of tablesWith(catalogue)) {
      const columns = personalColumns(table);
      const found = await recordsWith(tx, catalogue.tables, table, { words, columns, most: MOST_FOUND + 1 });
      if (found.length > 0) tables.push(asFound(table, found, dayOf(context, catalogue)));
    }
    const asked = tablesWith(catalogue).flatMap((table) => personalColumns(table).map(({ id }) => id));
    const unkept = asked.length === 0 ? [] : await unkeptWith(tx, words, asked, MOST_FOUND + 1);
    const submissions = await wholeSubmissions(tx, unkept.slice(0, MOST_FOUND));
    await notePersonal(tx, 'personal-search', 'made', '');
    return ok({
      tables,
      submissions: submissions.map(({ id, design, number, sender, sentAt }) => ({
        id,
        form: design.title,
        number,
        sender,
        sentAt: sentAt?.toISOString() ?? null,
      })),
      moreSubmissions: unkept.length > MOST_FOUND,
    });
  });
}

function asFound(table: Table, found: readonly WholeRecord[], today: string): FoundTable {
  const marked = personalColumns(table);
  return {
    id: table.id,
    label: table.label,
    columns: erasable(table).map((column) => ({
      id: column.id,
      label: column.label,
      isPersonal: column.personal !== null,
    })),
    why: table.duty?.why ?? null,
    records: found.slice(0, MOST_FOUND).map(({ id, number, title, made, removed, values }) => ({
      id,
      number,
      title,
      made,
      removed,
      values: marked.flatMap((column) => {
        const shown = values[column.id] ?? null;
        return shown === null || shown === '' ? [] : [{ label: column.label, text: shown }];
      }),
      keptUntil: keptUntil(table.duty, made, today),
    })),
    more: found.length > MOST_FOUND,
  };
}
