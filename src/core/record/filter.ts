import { pickedFilterOf } from '../check/pick';
import { type Picked } from '../check/pick-text';
import { read } from '../expression/read';
import { storedScope, toStored } from '../expression/stored-text';
import type { Expression } from '../expression/tree';
import type { Scope } from '../expression/type';
import { issue, type Issue } from '../kernel/issue';
import { writtenOut } from './formulas';
import { fail, ok, type Result } from '../kernel/result';
import { isCalculated, type Column, type ColumnChoice, type Table } from '../table/model';
import { PEOPLE } from '../expression/type';
import { speak } from '../wording/speak';

/** Which records are shown: FEEL over the columns of their table, and as picking would have made it, where it could have. */
export interface Filter {
  readonly text: string;
  readonly tree: Expression;
  readonly picked: Picked | null;
}

export function readFilter(text: string, table: Table, scope: Scope): Result<Filter, Issue[]> {
  const plain = read(text, scope);
  if (!plain.ok) return fail(plain.error.map((one) => ({ ...one, path: ['where'] }) as Issue));
  // Calculated columns written out are worked out for all records at once.
  const whole = table.columns.some(isCalculated)
    ? read(writtenOut(toStored(text, scope), table, scope), storedScope(scope))
    : plain;
  const tree = whole.ok ? whole : plain;
  if (tree.value.type.t !== 'yes-no')
    return fail([issue('not-a-condition', ['where'], { given: tree.value.type.t })]);
  return ok({ text, tree: tree.value, picked: pickedFilterOf(text, scope) });
}

/** What conditions can be picked about: a column, or one of a record that is referred to. */
export interface Filterable {
  /** As FEEL. */
  readonly text: string;
  readonly label: string;
  readonly kind: Column['kind'];
  readonly choices: readonly ColumnChoice[];
  /** Whether it names a person of the workspace. */
  readonly isPerson: boolean;
}

export function filterables(table: Table, tables: ReadonlyMap<string, Table>): Filterable[] {
  return table.columns.flatMap((column): Filterable[] => {
    if (column.kind !== 'reference') return [asFilterable(column, column.key, column.label)];
    const target = tables.get(column.target ?? '');
    return [
      asFilterable(column, column.key, column.label),
      ...(target?.columns ?? [])
        .filter(({ kind }) => kind !== 'reference')
        .map((inner) =>
          asFilterable(inner, `${column.key}.${inner.key}`, `${column.label} › ${inner.label}`),
        ),
    ];
  });
}

/** The same, with who made a record, and when: what rules and filters may be about, and nothing is grouped by. */
export const allFilterables = (table: Table, tables: ReadonlyMap<string, Table>): Filterable[] => [
  ...filterables(table, tables),
  { text: 'created_by', label: speak`Made by`, kind: 'reference', choices: [], isPerson: true },
  { text: 'created_at', label: speak`Made on`, kind: 'date-time', choices: [], isPerson: false },
];

const asFilterable = ({ kind, choices, target }: Column, text: string, label: string): Filterable => ({
  text,
  label,
  kind,
  choices,
  isPerson: target === PEOPLE,
});
