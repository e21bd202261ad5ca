import type { Catalogue } from '../../core/catalogue/catalogue';
import { reader } from '../../core/import/convert';
import { carryIssues } from '../../core/form/carry';
import { columnUses } from '../../core/form/column-uses';
import { compileForm } from '../../core/form/compile-form';
import type { FormDesign } from '../../core/form/design';
import { issue, type Issue } from '../../core/kernel/issue';
import { asRetired, type TableChange } from '../../core/table/change';
import type { Conversion } from '../../core/table/convert-column';
import { isCalculated, keptColumns, type Column, type Table } from '../../core/table/model';
import { planRedesign, type Redesign } from '../../core/table/redesign';
import { linkedIssues } from '../../core/table/linked-issues';
import { isAmongRecords } from '../../core/check/check';
import { formulaIssues } from '../../core/record/formulas';
import { tableCheckIssues } from '../../core/check/table-checks';
import { tableIssues } from '../../core/table/table-issues';
import type { ColumnUse } from '../../core/table/table-change';
import { issueSentence } from '../../core/wording/issue-sentence';
import type { UsingForm } from '../../data/system/table-changes';

/** A redesign held against the table there is and the forms that use it, before any value is looked at. */
export interface RedesignPlan {
  readonly before: Table | null;
  readonly after: Table;
  readonly changes: readonly TableChange[];
  readonly conversions: readonly Conversion[];
  /** Columns that are added and must be filled, with what their owner says records there are get; null where they did not say. */
  readonly fills: readonly { readonly column: Column; readonly value: string | null }[];
  readonly issues: readonly Issue[];
  readonly uses: readonly ColumnUse[];
}

export function planFor(
  redesign: Redesign,
  { tables, workspace }: Pick<Catalogue, 'tables' | 'workspace'>,
  forms: readonly UsingForm[],
): RedesignPlan {
  const before = tables.get(redesign.table.id) ?? null;
  const after = drawnOn(before, redesign.table);
  const changes = planRedesign(before, after);
  const wanted = new Map(tables).set(after.id, after);
  return {
    before,
    after,
    changes,
    conversions: conversionsOf(changes, before, redesign),
    fills: changes.flatMap((change) =>
      change.t === 'add-column' && change.column.required
        ? [{ column: change.column, value: fillOf(change.column, redesign, workspace.zone) }]
        : [],
    ),
    issues: [
      ...tableIssues(after, before, tables),
      ...linkedIssues(before, changes),
      ...(after.parent === null || tables.has(after.parent)
        ? []
        : [issue('table-unknown', ['table', 'parent'])]),
      ...(before === null ? [] : brokenForms(before, changes, tables, wanted, forms)),
      ...brokenChecks(after, tables, wanted),
    ],
    uses: before === null ? [] : usesOf(before, changes, tables, forms),
  };
}

/**
 * A table as it is wanted, as far as that can be: its key and what its rows belong to are fixed when it is
 * made, and what is retired is what there is. Whoever sends something else changes nothing by it.
 */
function drawnOn(before: Table | null, wanted: Table): Table {
  const live = new Set(wanted.columns.map(({ id }) => id));
  const there = new Map(
    [...(before?.columns ?? []).map(asRetired), ...(before?.retired ?? [])].map((column) => [
      column.id,
      column,
    ]),
  );
  const kept = new Set(keptColumns(wanted).map(({ id }) => id));
  return {
    ...wanted,
    // What is worked out demands nothing of its records.
    columns: wanted.columns.map((column) =>
      isCalculated(column)
        ? { ...column, required: false, unique: false, locked: false, default: '', personal: null }
        : column,
    ),
    key: before?.key ?? wanted.key,
    parent: before === null ? wanted.parent : before.parent,
    version: before?.version ?? 0,
    linked: before?.linked ?? null,
    retired: wanted.retired.flatMap(({ id }) => (live.has(id) ? [] : (there.get(id) ?? []))),
    title: wanted.title.filter((id) => kept.has(id)),
    // A check without a word was begun and left.
    checks: wanted.checks.filter(
      (check) => isAmongRecords(check) || check.must.trim() !== '' || check.message.trim() !== '',
    ),
    together: wanted.together.map((set) => set.filter((id) => kept.has(id))).filter((set) => set.length > 0),
  };
}

/** What blanks become in a column that must be filled is a conversion too, to the same kind. */
function conversionsOf(
  changes: readonly TableChange[],
  before: Table | null,
  { readings, mends }: Redesign,
): Conversion[] {
  const old = new Map(
    [...(before?.columns ?? []), ...(before?.retired ?? [])].map((column) => [column.id, column]),
  );
  const ids = new Set(
    changes.flatMap((change) =>
      change.t === 'convert-column' ||
      (change.t === 'require-column' && mends[change.column.id] !== undefined)
        ? [change.column.id]
        : [],
    ),
  );
  return changes
    .flatMap((change) =>
      change.t === 'convert-column' || change.t === 'require-column' ? [change.column] : [],
    )
    .filter(({ id }, i, all) => ids.has(id) && all.findIndex((one) => one.id === id) === i)
    .flatMap((column) => {
      const from = old.get(column.id);
      return from === undefined
        ? []
        : [{ before: from, column, reading: readings[column.id] ?? {}, mends: mends[column.id] ?? {} }];
    });
}

function fillOf(column: Column, { readings, mends }: Redesign, zone: string): string | null {
  // A record to refer to is picked, not written; such a column is filled first and required in a later change.
  if (column.kind === 'reference') return null;
  const text = mends[column.id]?.[''] ?? '';
  const read = reader({ column, reading: { unit: column.unit, ...readings[column.id] } }, zone)(text);
  return text !== '' && 'value' in read ? read.value : null;
}

/** Changes by which a form may be touched. */
const touching: ReadonlySet<TableChange['t']> = new Set([
  'rename-column',
  'convert-column',
  'retire-column',
  'remove-column',
  'change-choices',
  'require-column',
  'make-unique',
  'relabel-column',
]);

function usesOf(
  before: Table,
  changes: readonly TableChange[],
  tables: ReadonlyMap<string, Table>,
  forms: readonly UsingForm[],
): ColumnUse[] {
  const touched = new Set(
    changes.flatMap((change) => ('column' in change && touching.has(change.t) ? [change.column.id] : [])),
  );
  if (touched.size === 0) return [];
  const found = forms.flatMap(({ id, title, design, release }) =>
    [...columnUses(design, tables, before)]
      .filter(([column]) => touched.has(column))
      .map(([column, where]): ColumnUse => ({
        column,
        form: title,
        formId: id,
        where: [...where],
        live: release !== null,
      })),
  );
  // A form stands once for each column: as what is live, where it is.
  return found.filter(
    (one, i) => found.findIndex((other) => other.formId === one.formId && other.column === one.column) === i,
  );
}

/** What is live, or holds submissions on their way, must go on working; drafts are told of what they must change when they are released. */
function brokenForms(
  before: Table,
  changes: readonly TableChange[],
  tables: ReadonlyMap<string, Table>,
  wanted: ReadonlyMap<string, Table>,
  forms: readonly UsingForm[],
): Issue[] {
  const removed = changes.flatMap((change) => (change.t === 'remove-column' ? [change.column] : []));
  const converted = changes.some(
    (change) => change.t === 'convert-column' || change.t === 'remove-column' || change.t === 'rename-column',
  );
  return forms
    .filter(({ release }) => release !== null)
    .flatMap(({ title, design }) => {
      const uses = columnUses(design, tables, before);
      const written = removed
        .filter(({ id }) => uses.get(id)?.has('asked'))
        .map((column) => issue('form-writes', [column.id], { form: title, label: column.label }));
      const [first] = converted ? newIssues(design, tables, wanted) : [];
      return [
        ...written,
        ...(first === undefined
          ? []
          : [issue('form-breaks', ['table'], { form: title, why: issueSentence(first) })]),
      ];
    });
}

/** The checks and formulas of other tables must go on to be told. */
function brokenChecks(
  { id }: Table,
  tables: ReadonlyMap<string, Table>,
  wanted: ReadonlyMap<string, Table>,
): Issue[] {
  return [...tables.values()]
    .filter((table) => table.id !== id && (table.checks.length > 0 || table.columns.some(isCalculated)))
    .flatMap((table) => {
      const breaks = (of: (table: Table, tables: ReadonlyMap<string, Table>) => Issue[]): string[] => {
        const known = new Set(of(table, tables).map((one) => JSON.stringify(one)));
        return of(table, wanted)
          .filter((one) => !known.has(JSON.stringify(one)))
          .map(issueSentence);
      };
      const facts = (why: string) => ({ table: table.label, why });
      return [
        ...breaks(tableCheckIssues).map((why) => issue('table-check-breaks', ['table'], facts(why))),
        ...breaks(formulaIssues).map((why) => issue('formula-breaks', ['table'], facts(why))),
      ];
    });
}

function newIssues(
  design: FormDesign,
  tables: ReadonlyMap<string, Table>,
  wanted: ReadonlyMap<string, Table>,
): Issue[] {
  const of = (which: ReadonlyMap<string, Table>): Issue[] => {
    const compiled = compileForm(design, which);
    return [...(compiled.ok ? [] : compiled.error), ...carryIssues(design, which)];
  };
  const known = new Set(of(tables).map((one) => JSON.stringify(one)));
  return of(wanted).filter((one) => !known.has(JSON.stringify(one)));
}
