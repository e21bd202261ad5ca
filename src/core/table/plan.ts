import { issue, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import type { TableChange } from './change';
import type { Column, Table } from './model';

/**
 * What must be done so that the tables there are become the tables wanted. Parents come before their rows.
 * Columns that are no longer asked for stay, and only stop being required: data is never dropped by a release.
 * The paths of issues are `['store', table id, column id]`.
 */
export function planTables(
  there: readonly Table[],
  wanted: readonly Table[],
): Result<TableChange[], Issue[]> {
  const issues: Issue[] = [];
  const changes: TableChange[] = [];
  const byId = new Map(there.map((table) => [table.id, table]));
  const keys = new Map(there.map((table) => [table.key, table.id]));
  for (const table of wanted) {
    const before = byId.get(table.id);
    const holder = keys.get(table.key);
    if (before === undefined && holder !== undefined)
      issues.push(issue('table-key-taken', ['store', table.id], { key: table.key }));
    keys.set(table.key, table.id);
    if (before === undefined) changes.push({ t: 'make-table', table });
    else changes.push(...columnChanges(before, table, issues));
  }
  return issues.length > 0 ? fail(issues) : ok(changes);
}

function columnChanges(before: Table, after: Table, issues: Issue[]): TableChange[] {
  const changes: TableChange[] = [];
  if (before.label !== after.label) changes.push({ t: 'relabel-table', table: after, before: before.label });
  const known = new Map(before.columns.map((column) => [column.id, column]));
  for (const column of after.columns) {
    const old = known.get(column.id);
    if (before.retired.some(({ id }) => id === column.id))
      issues.push(
        issue('column-retired', ['store', after.id, column.id], { label: column.label, table: after.label }),
      );
    else if (old === undefined) {
      const clash = [...before.columns, ...before.retired].some(({ key }) => key === column.key);
      if (clash)
        issues.push(
          issue('column-clash', ['store', after.id, column.id], {
            key: column.key,
            label: column.label,
            table: after.label,
          }),
        );
      // A table with rows cannot require what they do not have; the form itself still asks for it.
      else if (before.linked !== null)
        issues.push(
          issue('linked-structure', ['store', after.id, column.id], {
            label: column.label,
            source: before.linked.source,
          }),
        );
      else changes.push({ t: 'add-column', table: after, column: { ...column, required: false } });
    } else changes.push(...changesOf(old, column, after, issues));
  }
  if (before.linked === null) return [...changes, ...leftOut(before, after)];
  // What its source demands of every record cannot be let go here.
  const { source, adds } = before.linked;
  if (!adds) issues.push(issue('linked-no-adding', ['store', after.id], { table: before.label, source }));
  issues.push(
    ...leftOut(before, after).map(({ column }) =>
      issue('linked-required', ['store', after.id, column.id], { label: column.label, source }),
    ),
  );
  return changes.filter(({ t }) => t === 'relabel-table' || t === 'relabel-column');
}

function changesOf(old: Column, column: Column, table: Table, issues: Issue[]): TableChange[] {
  const sameKind =
    old.kind === column.kind &&
    old.target === column.target &&
    (old.decimals ?? 0) === (column.decimals ?? 0);
  if (!sameKind) {
    issues.push(
      issue('kind-changed', ['store', table.id, column.id], {
        label: column.label,
        before: old.kind,
        after: column.kind,
      }),
    );
    return [];
  }
  const kept = { ...column, key: old.key, required: old.required && column.required };
  return [
    ...(old.label !== column.label
      ? [{ t: 'relabel-column', table, column: kept, before: old.label } as const]
      : []),
    ...(old.required && !column.required ? [{ t: 'loosen-column', table, column: kept } as const] : []),
    ...choiceChanges(old, kept, table, issues),
  ];
}

/** A form may offer some of a list's choices, or give a column a list that has all it may hold; it does not take anything from either. */
function choiceChanges(old: Column, column: Column, table: Table, issues: Issue[]): TableChange[] {
  const path = ['store', table.id, column.id];
  const ofList = old.list !== null && (column.list === null || column.list.id === old.list.id);
  if (ofList) {
    const beyond = missingIn(old, column.choices);
    if (column.list === null && beyond !== '')
      issues.push(
        issue('choice-not-in-list', path, {
          label: column.label,
          list: old.list?.label ?? '',
          choices: beyond,
        }),
      );
    return [];
  }
  if (column.list === null)
    return sameChoices(old, column)
      ? []
      : [{ t: 'change-choices', table, column: { ...column, choices: together(old, column) } }];
  const lost = missingIn(column, old.choices);
  if (lost === '') return [{ t: 'change-choices', table, column }];
  issues.push(issue('list-lacks', path, { label: column.label, list: column.list.label, choices: lost }));
  return [];
}

/** The words of those whose codes `column` does not have. */
function missingIn(column: Column, choices: Column['choices']): string {
  const codes = new Set(column.choices.map(({ code }) => code));
  return choices
    .filter(({ code }) => !codes.has(code))
    .map(({ label }) => label)
    .join(', ');
}

function sameChoices(old: Column, column: Column): boolean {
  return JSON.stringify(together(old, column)) === JSON.stringify(old.choices);
}

/** Codes already in rows stay valid; new labels win, new codes are added. */
function together(old: Column, column: Column): Column['choices'] {
  const fresh = new Map(column.choices.map((choice) => [choice.code, choice]));
  // What was retired in the design of the table stays so, whatever the form still offers.
  const kept = old.choices.map((choice) => ({
    ...(fresh.get(choice.code) ?? choice),
    ...(choice.retired === true && { retired: true }),
  }));
  return [...kept, ...column.choices.filter(({ code }) => !old.choices.some((one) => one.code === code))];
}

function leftOut(before: Table, after: Table): Extract<TableChange, { column: Column }>[] {
  const wanted = new Set(after.columns.map(({ id }) => id));
  return before.columns
    .filter(({ id, required }) => required && !wanted.has(id))
    .map((column) => ({ t: 'loosen-column' as const, table: after, column: { ...column, required: false } }));
}
