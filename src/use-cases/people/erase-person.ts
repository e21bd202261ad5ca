import type { ErasedData, Erasing } from '../../contract/one-person';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import {
  erasable,
  Erased,
  erasedValue,
  erasingIssues,
  keptUntil,
  personalColumns,
} from '../../core/personal/erased';
import type { Column, Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { fieldIssue } from '../../data/field-issues';
import {
  emptyHistory,
  emptyRecords,
  lockedValues,
  type WholeRecord,
} from '../../data/runtime/records/one-person';
import {
  notePersonal,
  removeFiles,
  rewriteAnswered,
  rewriteAnswers,
  rewriteExamples,
  submissionsOf,
  wholeSubmissions,
} from '../../data/system/one-person';
import type { Context } from '../workspace/asking';
import { once } from '../workspace/once';
import { asAdministrator, dayOf, idsOf, numbersOf, partsOf, tablesWith, type Part } from './one-person';

/**
 * Empties what is chosen of records, their rows, their history, and the answers they were sent with, in one
 * transaction. What a duty keeps is left, and told.
 */
export async function erasePerson(context: Context, erasing: Erasing): Promise<Result<ErasedData, Refusal>> {
  const { key, ...said } = erasing;
  return asAdministrator(context, (tx, catalogue) =>
    once(tx, context, key, { operation: 'erase-person', of: '', said }, async () => {
      const parts = await partsOf(tx, catalogue, erasing);
      if (!parts.ok) return parts;
      const { free, kept } = dutiesOf(parts.value, dayOf(context, catalogue));
      const plan = free.map((part) => ({ ...part, columns: columnsOf(part.table, erasing) }));
      const issues = plan.flatMap(({ table, columns }) => erasingIssues(table, columns));
      if (issues.length > 0) return fail(invalid(...issues));
      const rid = new Rid();
      for (const { table, records, columns } of plan) {
        const refused = await eraseIn(tx, table, records, columns, rid);
        if (refused !== null) return fail(refused);
      }
      const begun = await wholeSubmissions(tx, erasing.submissions);
      // What became a record goes with the record, or stays with it.
      if (begun.length < new Set(erasing.submissions).size || !begun.every(({ isUnkept }) => isUnkept))
        return fail(notFound('submission'));
      const sent = [...new Set([...erasing.submissions, ...(await submissionsOf(tx, idsOf(free)))])];
      await eraseSent(tx, catalogue, erasing, sent, rid);
      const everywhere = new Erased(rid.columns, rid.values);
      await rewriteAnswered(tx, [...idsOf(free), ...sent], (answer) => everywhere.in(answer));
      if (idsOf(free).length + sent.length > 0)
        await notePersonal(tx, 'personal-data', 'removed', numbersOf(free, begun));
      return ok({ records: idsOf(free).length, submissions: sent.length, kept });
    }),
  );
}

/** What is got rid of on the way. */
class Rid {
  readonly columns = new Set<string>();
  readonly values = new Set<string>();
}

function dutiesOf(
  parts: readonly Part[],
  today: string,
): { readonly free: Part[]; readonly kept: ErasedData['kept'] } {
  const held = new Set<string>();
  const kept: ErasedData['kept'][number][] = [];
  // Rows come after what they belong to, and stay with it.
  const free = parts.map(({ table, records }) => ({
    table,
    records: records.filter(({ id, parent, number, made }) => {
      const until = keptUntil(table.duty, made, today);
      if (until !== null) kept.push({ number, table: table.label, until, why: table.duty?.why ?? '' });
      if (until === null && (parent === null || !held.has(parent))) return true;
      held.add(id);
      return false;
    }),
  }));
  return { free, kept };
}

function columnsOf(table: Table, { columns }: Erasing): Column[] {
  const said = columns[table.id];
  return said === undefined ? personalColumns(table) : erasable(table).filter(({ id }) => said.includes(id));
}

async function eraseIn(
  tx: Tx,
  table: Table,
  records: readonly WholeRecord[],
  columns: readonly Column[],
  rid: Rid,
): Promise<Refusal | null> {
  if (records.length === 0 || columns.length === 0) return null;
  const stored = await lockedValues(
    tx,
    table,
    records.map(({ id }) => id),
    columns,
  );
  const ids = stored.map(({ id }) => id);
  const texts = stored.flatMap(({ values }) =>
    values.flatMap((value, i) =>
      value === null || value === '' || columns[i]?.kind === 'files' ? [] : [value],
    ),
  );
  const emptied = columns.map((column) => ({
    column,
    values: stored.map(({ number }) =>
      table.retired.some(({ id }) => id === column.id) ? null : erasedValue(column, number),
    ),
  }));
  try {
    await emptyRecords(tx, table, ids, emptied);
  } catch (error) {
    const found = fieldIssue(error, table);
    if (found === null) throw error;
    return invalid(found);
  }
  await emptyHistory(tx, table, ids, { columns, values: texts });
  const files = stored.flatMap(({ values }) =>
    values.flatMap((value, i) => (columns[i]?.kind === 'files' ? ((value ?? '').match(UUID) ?? []) : [])),
  );
  await removeFiles(tx, files);
  for (const { id } of columns) rid.columns.add(id);
  for (const text of texts) rid.values.add(text);
  return null;
}
const UUID = /[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g;

/** Of what became no record, all that is marked goes, for nothing else says which answers are about people. */
async function eraseSent(
  tx: Tx,
  catalogue: Catalogue,
  { submissions: chosen }: Erasing,
  sent: readonly string[],
  rid: Rid,
): Promise<void> {
  const marked = tablesWith(catalogue).flatMap((table) => personalColumns(table).map(({ id }) => id));
  const isChosen = new Set(chosen);
  const whole = await wholeSubmissions(tx, sent);
  for (const { id } of whole) {
    const erased = new Erased(isChosen.has(id) ? [...rid.columns, ...marked] : rid.columns, rid.values);
    await rewriteAnswers(tx, [id], (answers) => erased.in(answers));
  }
  const examples = new Erased([], rid.values);
  await rewriteExamples(tx, [...new Set(whole.map(({ formId }) => formId))], (answers) =>
    examples.in(answers),
  );
}
