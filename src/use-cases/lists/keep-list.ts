import type { Catalogue } from '../../core/catalogue/catalogue';
import { issue, type Issue } from '../../core/kernel/issue';
import { invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { listIssues, usesList, type ChoiceList } from '../../core/table/choice-list';
import { defaultSql } from '../../core/table/default-value';
import type { ColumnChoice, Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { heldCodes } from '../../data/runtime/tables/column-values';
import { applyStatements, oneTableChangeAtATime } from '../../data/runtime/tables/tables';
import { deleteList, keepList as keep, listVersions, readList } from '../../data/system/choice-lists';
import { answersHolding } from '../../data/system/submission-lists';
import { designsInUse } from '../../data/system/table-changes';
import { asOwner } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';
import { columnsOf } from './read-lists';
import { speak } from '../../core/wording/speak';

type ListInput = Omit<ChoiceList, 'id'>;

/**
 * Makes a list, or changes it for every column and form that takes its choices from it, in one transaction:
 * what their columns may hold changes with it. A choice that something holds can be retired, not taken out.
 */
export async function keepList(
  context: Context,
  id: string,
  input: ListInput,
): Promise<Result<{ version: number }, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asOwner({ person: who.value.id }, async (tx) => {
    const catalogue = await oneTableChangeAtATime(tx);
    const before = await readList(tx, id, true);
    if ((before?.version ?? 0) !== input.version)
      return fail(stale('list-changed', { by: (await listVersions(tx, id, 1))[0]?.by ?? speak`Somebody` }));
    const wanted = { ...input, id, version: input.version + 1 };
    const { tables } = catalogue;
    const issues = [
      ...listIssues(wanted, [...catalogue.lists.values()]),
      ...(before === null ? [] : await heldIssues(tx, catalogue, before, wanted)),
    ];
    if (issues.length > 0) return fail(invalid(...issues));
    if (!(await keep(tx, wanted, who.value.id))) return fail(stale('list-changed'));
    if (before !== null && hasOtherCodes(before.choices, wanted.choices)) await constrain(tx, wanted, tables);
    return ok({ version: wanted.version });
  });
}

const hasOtherCodes = (before: readonly ColumnChoice[], after: readonly ColumnChoice[]): boolean =>
  before
    .map(({ code }) => code)
    .sort()
    .join('\n') !==
  after
    .map(({ code }) => code)
    .sort()
    .join('\n');

async function constrain(tx: Tx, list: ChoiceList, tables: ReadonlyMap<string, Table>): Promise<void> {
  for (const { table, column } of columnsOf([...tables.values()], list.id)) {
    await applyStatements(
      tx,
      [{ t: 'change-choices', table, column: { ...column, choices: list.choices } }],
      (other) => tables.get(other)?.key ?? '',
    );
  }
}

/** Choices that are taken out though something holds them, with what does. */
async function heldIssues(
  tx: Tx,
  catalogue: Catalogue,
  before: ChoiceList,
  wanted: ChoiceList,
): Promise<Issue[]> {
  const kept = new Set(wanted.choices.map(({ code }) => code));
  const removed = before.choices.filter(({ code }) => !kept.has(code));
  if (removed.length === 0) return [];
  const holders = new Map(removed.map(({ code }) => [code, [] as string[]]));
  for (const { table, column } of columnsOf([...catalogue.tables.values()], before.id)) {
    for (const { code, rows } of await heldCodes(tx, table, column))
      holders
        .get(code)
        ?.push(
          speak`${rows === 1 ? speak`one record` : speak`${rows} records`} of ${table.label} ${rows === 1 ? speak`holds` : speak`hold`} it`,
        );
    for (const { code } of removed)
      if (needs(column, before, code))
        holders.get(code)?.push(speak`it is the default of ${column.label} in ${table.label}`);
  }
  const forms = (await designsInUse(tx, catalogue))
    .filter(({ design }) => usesList(design, before.id))
    .map((one) => one.id);
  for (const { code } of removed)
    if (forms.length > 0 && (await answersHolding(tx, [...new Set(forms)], code)))
      holders.get(code)?.push(speak`a submission on its way holds it`);
  return removed.flatMap(({ code, label }) => {
    const where = holders.get(code) ?? [];
    return where.length === 0
      ? []
      : [issue('choice-held', ['choices'], { choice: label, where: where.join(speak`, and `) })];
  });
}

/** Whether the default of a column is one that only this choice makes right. */
const needs = (column: Parameters<typeof defaultSql>[0], { choices }: ChoiceList, code: string): boolean =>
  column.default !== '' &&
  defaultSql(column).ok &&
  !defaultSql({ ...column, choices: choices.filter((one) => one.code !== code) }).ok;

/** A list that nothing uses can be removed; what was changed of it stays on record. */
export async function removeList(context: Context, id: string): Promise<Result<null, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asOwner({ person: who.value.id }, async (tx) => {
    const catalogue = await oneTableChangeAtATime(tx);
    if ((await readList(tx, id, true)) === null) return fail(notFound('choice list'));
    const columns = columnsOf([...catalogue.tables.values()], id).map(
      ({ table, column }) => speak`${column.label} in ${table.label}`,
    );
    const forms = (await designsInUse(tx, catalogue))
      .filter(({ design }) => usesList(design, id))
      .map(({ title }) => speak`the form ${title}`);
    const where = [...columns, ...new Set(forms)];
    if (where.length > 0) return fail(invalid(issue('list-used', [], { where: where.join(', ') })));
    await deleteList(tx, id);
    return ok(null);
  });
}
