import { isKey, isPrefix, isReservedKey } from '../form/key';
import { choiceIssues, labelIssues } from '../form/label-issues';
import { issue, type Issue } from '../kernel/issue';
import { limits } from '../limits';
import { tableCheckIssues } from '../check/table-checks';
import { matchIssues } from './matches';
import { defaultSql } from './default-value';
import { formulaIssues } from '../record/formulas';
import { hasChoices, isCalculated, type Column, type Table } from './model';

/**
 * Everything that keeps a table as it is wanted from being made. Paths: `[column id, field?]`, `['table',
 * field]`, `['checks', check id]`, `['matches', match id]`.
 */
export function tableIssues(
  wanted: Table,
  before: Table | null,
  others: ReadonlyMap<string, Table>,
): Issue[] {
  const all = [...wanted.columns, ...wanted.retired];
  return [
    ...labelIssues(wanted.label, ['table', 'label']),
    ...keyIssues(wanted.key, ['table', 'key']),
    ...(before === null && [...others.values()].some(({ id, key }) => id !== wanted.id && key === wanted.key)
      ? [issue('table-key-taken', ['table', 'key'], { key: wanted.key })]
      : []),
    ...(isPrefix(wanted.prefix)
      ? []
      : [issue('prefix-invalid', ['table', 'prefix'], { prefix: wanted.prefix })]),
    ...(wanted.duty !== null && wanted.duty.why.trim() === '' ? [issue('duty-why', ['table', 'duty'])] : []),
    ...(wanted.columns.length === 0 ? [issue('columns-missing', ['table', 'columns'])] : []),
    ...(all.length > limits.tableColumns
      ? [issue('too-many', ['table', 'columns'], { what: 'columns', most: limits.tableColumns })]
      : []),
    ...wanted.columns.flatMap((column) => columnIssues(column, wanted, others)),
    ...all
      .filter(({ key }, i) => all.findIndex((one) => one.key === key) < i)
      .map(({ id, key }) => issue('key-taken', [id, 'key'], { key })),
    ...wanted.together
      .filter((set) => set.length < 2)
      .map(() => issue('together-too-few', ['table', 'together'])),
    ...formulaIssues(wanted, others),
    ...fixedFormulas(wanted, before),
    ...keptFromSome(wanted, before),
    ...tableCheckIssues(wanted, others),
    ...matchIssues(wanted, before, others),
    ...removedUnasked(wanted, before).map(({ id, label }) => issue('retire-first', [id], { label })),
  ];
}

function keyIssues(key: string, path: Issue['path']): Issue[] {
  if (!isKey(key)) return [issue('key-invalid', path, { key, most: limits.key })];
  return isReservedKey(key) ? [issue('key-reserved', path, { key })] : [];
}

function columnIssues(column: Column, table: Table, others: ReadonlyMap<string, Table>): Issue[] {
  const { id, kind, choices, decimals } = column;
  const preset = defaultSql(column);
  return [
    ...labelIssues(column.label, [id, 'label']),
    ...keyIssues(column.key, [id, 'key']),
    ...(hasChoices(column) ? choiceIssues(choices, [id, 'choices']) : []),
    ...(kind === 'reference' && column.target !== table.id && !others.has(column.target ?? '')
      ? [issue('table-unknown', [id, 'target'])]
      : []),
    ...((decimals ?? 0) > limits.decimals
      ? [issue('too-many', [id, 'decimals'], { what: 'decimals', most: limits.decimals })]
      : []),
    ...(preset.ok ? [] : preset.error),
  ];
}

/** What a column holds is either filled or worked out, for as long as it is there. */
function fixedFormulas(wanted: Table, before: Table | null): Issue[] {
  const known = new Map([...(before?.columns ?? []), ...(before?.retired ?? [])].map((one) => [one.id, one]));
  return [...wanted.columns, ...wanted.retired].flatMap((column) => {
    const old = known.get(column.id);
    return old === undefined || isCalculated(old) === isCalculated(column)
      ? []
      : [issue('formula-fixed', [column.id, 'formula'], { label: column.label })];
  });
}

/** What is restricted neither names the records nor holds files; who sees a column that is there is said elsewhere. */
function keptFromSome(wanted: Table, before: Table | null): Issue[] {
  const known = new Map([...(before?.columns ?? []), ...(before?.retired ?? [])].map((one) => [one.id, one]));
  return wanted.columns
    .filter((column) => (known.get(column.id) ?? column).restricted)
    .flatMap(({ id, kind, label }) => [
      ...(wanted.title.includes(id) ? [issue('restricted-title', ['table', 'title'], { label })] : []),
      ...(kind === 'files' ? [issue('restricted-files', [id], { label })] : []),
    ]);
}

/** A column goes for good only after it was retired, in a change of its own: what somebody misses can be brought back until then. */
function removedUnasked(wanted: Table, before: Table | null): readonly Column[] {
  const kept = new Set([...wanted.columns, ...wanted.retired].map(({ id }) => id));
  return before?.columns.filter(({ id }) => !kept.has(id)) ?? [];
}
