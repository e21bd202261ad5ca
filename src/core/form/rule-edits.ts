import { rulesFor } from '../rules/ruled-steps';
import { givesOf, type Rule, type RuleGives, type RuleTable } from '../rules/rules';
import { rulesIn, type CalculatedQuestion, type FormDesign } from './design';

/** Edits of the tables of rules of a design; each gives a new design. */

export const changeRules = (
  design: FormDesign,
  id: string,
  change: (table: RuleTable) => RuleTable,
): FormDesign => ({
  ...design,
  rules: rulesIn(design).map((table) => (table.id === id ? change(table) : table)),
});

/** A table that says whom a step asks; its first row fits everything, and asks whom the step asked. */
export function beginRules(
  design: FormDesign,
  step: string,
  { table, row, label }: { readonly table: string; readonly row: string; readonly label: string },
): FormDesign {
  const of = design.steps.find(({ id }) => id === step);
  const { people = [], groups, manager, named } = of ?? {};
  const gives = { step, people, groups, manager, named };
  const begun: RuleTable = {
    id: table,
    label,
    hit: 'U',
    conditions: [],
    asks: [step],
    days: [],
    rows: [{ id: row, cells: [], gives: [gives] }],
  };
  return { ...design, rules: [...rulesIn(leaveRules(design, step)), begun] };
}

/** A step asks whom these tables say, and whom no others do. A table that is left by its last step goes. */
export function leaveRules(design: FormDesign, step: string, but: readonly string[] = []): FormDesign {
  const without = (ids: readonly string[]): string[] => ids.filter((id) => id !== step);
  const rules = rulesIn(design).flatMap((table): RuleTable[] => {
    if (but.includes(table.id))
      return [table.asks.includes(step) ? table : { ...table, asks: [...table.asks, step] }];
    if (!table.asks.includes(step) && !table.days.includes(step)) return [table];
    const asks = without(table.asks);
    if (asks.length === 0 && (table.fills ?? []).length === 0) return [];
    const rows = table.rows.map((row) => ({
      ...row,
      gives: row.gives.filter((one) => one.step !== step),
    }));
    return [{ ...table, asks, days: without(table.days), rows }];
  });
  return { ...design, rules: rules.length === 0 ? undefined : rules };
}

/** A step is taken out, with its place in the tables of rules. */
export function removeStep(design: FormDesign, step: string): FormDesign {
  const left = rulesFor(rulesIn(design), step).length > 0 ? leaveRules(design, step) : design;
  return { ...left, steps: left.steps.filter(({ id }) => id !== step) };
}

/** What a row gives a step, changed. */
export const giveTo = (row: Rule, step: string, part: Partial<RuleGives>): Rule => ({
  ...row,
  gives: [...row.gives.filter((one) => one.step !== step), { ...givesOf(row, step), ...part }],
});

/** A table that fills an answer, of its own: its first row fits everything, and gives what the answer was worked out from. */
export function beginFilling(
  design: FormDesign,
  question: CalculatedQuestion,
  { table, row, label }: { readonly table: string; readonly row: string; readonly label: string },
): FormDesign {
  const { id, expression } = question;
  const begun: RuleTable = {
    id: table,
    label,
    hit: 'U',
    conditions: [],
    asks: [],
    days: [],
    fills: [id],
    rows: [{ id: row, cells: [], gives: [], fill: [{ question: id, expression }] }],
  };
  return { ...design, rules: [...rulesIn(leaveFilling(design, id)), begun] };
}

/** A table of rules fills an answer, and no other does. */
export const fillBy = (design: FormDesign, question: string, table: string): FormDesign =>
  changeRules(leaveFilling(design, question), table, (now) => ({
    ...now,
    fills: [...(now.fills ?? []), question],
  }));

/** No rules fill an answer any more. A table that asks and fills nothing is left out. */
export function leaveFilling(design: FormDesign, question: string): FormDesign {
  const rules = rulesIn(design).flatMap((table): RuleTable[] => {
    if (table.fills?.includes(question) !== true) return [table];
    const fills = table.fills.filter((id) => id !== question);
    if (fills.length === 0 && table.asks.length === 0) return [];
    const rows = table.rows.map((row) => setFill(row, question, ''));
    return [{ ...table, fills: fills.length === 0 ? undefined : fills, rows }];
  });
  return { ...design, rules: rules.length === 0 ? undefined : rules };
}

/** What a row gives an answer, as stored text; nothing takes it away. */
export function setFill({ fill = [], ...row }: Rule, question: string, expression: string): Rule {
  const others = fill.filter((one) => one.question !== question);
  const all = expression.trim() === '' ? others : [...others, { question, expression }];
  return all.length === 0 ? row : { ...row, fill: all };
}

/** A test of a row, as stored text; nothing takes it away. */
export const setTest = (row: Rule, condition: string, test: string): Rule => ({
  ...row,
  cells: [
    ...row.cells.filter((cell) => cell.condition !== condition),
    ...(test === '' ? [] : [{ condition, test }]),
  ],
});

export const removeCondition = (table: RuleTable, id: string): RuleTable => ({
  ...table,
  conditions: table.conditions.filter((one) => one.id !== id),
  rows: table.rows.map((row) => setTest(row, id, '')),
});

/** A row that is put into a list of rows behind another one, or last. */
export function insertRow(table: RuleTable, row: Rule, after: string | null = null): RuleTable {
  const at = table.rows.findIndex(({ id }) => id === after) + 1 || table.rows.length;
  return { ...table, rows: [...table.rows.slice(0, at), row, ...table.rows.slice(at)] };
}

export function moveRow(table: RuleTable, id: string, by: 1 | -1): RuleTable {
  const from = table.rows.findIndex((row) => row.id === id);
  const to = from + by;
  const row = table.rows[from];
  if (row === undefined || to < 0 || to >= table.rows.length) return table;
  const rest = table.rows.filter((one) => one !== row);
  return { ...table, rows: [...rest.slice(0, to), row, ...rest.slice(to)] };
}
