import { testsToStored, toShown } from '../expression/stored-text';
import type { Scope } from '../expression/type';
import { giveTo, setTest } from '../form/rule-edits';
import { limits } from '../limits';
import type { Rule, RuleGives, RuleTable, Whom } from '../rules/rules';
import { typedTest } from './rule-cells';
import type { Known } from './test-words';

/** By what a block is read: what conditions may be, and whom a text names; null for nobody who is known. */
export interface RuleReading {
  readonly scope: Scope;
  readonly known: (condition: string) => Known | null;
  readonly whom: (name: string) => Whom | 'nobody' | null;
  readonly newId: () => string;
}

/**
 * A table with a block of texts over it, from a condition of a row on: tests, then whom each step asks
 * (several set apart by commas), then days. Rows are added below. What cannot be read as a test stays as it
 * was typed; whoever is not known is told and left out.
 */
export function pastedRules(
  table: RuleTable,
  [rowId, condition]: readonly [row: string, condition: string],
  block: readonly (readonly string[])[],
  reading: RuleReading,
): { readonly table: RuleTable; readonly unknown: readonly string[] } {
  const unknown = new Set<string>();
  const from = table.conditions.findIndex(({ id }) => id === condition);
  const first = table.rows.findIndex(({ id }) => id === rowId);
  const lines = block.slice(0, limits.ruleRows - first);
  const rows = Array.from(
    { length: Math.max(table.rows.length, first + lines.length) },
    (_, i): Rule => table.rows[i] ?? { id: reading.newId(), cells: [], gives: [] },
  ).map((row, i) => (lines[i - first] ?? []).reduce((now, text, at) => put(now, from + at, text), row));
  return { table: { ...table, rows }, unknown: [...unknown] };

  function put(row: Rule, at: number, text: string): Rule {
    const test = table.conditions[at];
    if (test !== undefined) {
      const read = typedTest(text, test, reading.scope, reading.known(test.id));
      const kept = read.ok
        ? read.value
        : testsToStored(text, reading.scope, toShown(test.expression, reading.scope));
      return setTest(row, test.id, kept);
    }
    const asks = table.asks[at - table.conditions.length];
    if (asks !== undefined) return text.trim() === '' ? row : giveTo(row, asks, whomIn(text));
    const days = table.days[at - table.conditions.length - table.asks.length];
    const count = Number(text.trim());
    if (days === undefined || !Number.isInteger(count) || count < 1 || count > limits.withinDays) return row;
    return giveTo(row, days, { days: count });
  }

  function whomIn(text: string): Partial<RuleGives> {
    const found = text.split(',').flatMap((name) => {
      const one = reading.whom(name.trim());
      if (one === null) unknown.add(name.trim());
      return one === null ? [] : [one];
    });
    const somebody = found.filter((one) => one !== 'nobody');
    const groups = somebody.flatMap((one) => one.groups ?? []);
    return {
      people: [...new Set(somebody.flatMap(({ people }) => people))],
      groups: groups.length === 0 ? undefined : groups,
      manager: somebody.find(({ manager }) => manager !== undefined)?.manager,
      named: somebody.find(({ named }) => named !== undefined)?.named,
      nobody: somebody.length === 0 && found.includes('nobody') ? true : undefined,
    };
  }
}
