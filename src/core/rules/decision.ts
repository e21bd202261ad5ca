import { unquotedTexts } from '../expression/text-list';
import { quotedText } from '../expression/nodes/literals';
import {
  fillOf,
  levelsOf,
  testOf,
  givesOf,
  weightOf,
  type HitPolicy,
  type Rule,
  type RuleFill,
  type RuleGives,
  type RuleTable,
} from './rules';

/** A decision table as DMN 1.5 has it (clause 8), without its XML. */
export interface Decision {
  readonly name: string;
  readonly hit: HitPolicy;
  readonly inputs: readonly { readonly expression: string; readonly type: string }[];
  /** `values`: what an output may be, the weightiest first; it says which row counts under P. */
  readonly outputs: readonly {
    readonly name: string;
    readonly type: string;
    readonly values?: readonly string[] | undefined;
  }[];
  /** Unary tests and expressions, in the order of the inputs and outputs. */
  readonly rules: readonly { readonly tests: readonly string[]; readonly gives: readonly string[] }[];
}

/** By what people, groups and steps are known outside, and how expressions are written there. */
export interface Names {
  readonly steps: readonly { readonly id: string; readonly label: string }[];
  /** Calculated answers that rules may fill, with the standard's name of what they are. */
  readonly answers: readonly { readonly id: string; readonly label: string; readonly type: string }[];
  /** No two are called the same. */
  readonly people: readonly { readonly id: string; readonly label: string }[];
  readonly groups: readonly { readonly id: string; readonly label: string }[];
  readonly type: (expression: string) => string;
  readonly shown: (expression: string) => string;
  readonly stored: (expression: string) => string;
  readonly testShown: (test: string, of: string) => string;
  readonly testStored: (test: string, of: string) => string;
}

const ASK = 'Ask at ';
const DAYS = 'Working days at ';
/** By how many levels they are above the sender. */
const managers = [
  'the sender’s manager',
  'the manager of the sender’s manager',
  'three levels above the sender',
];
const NOBODY = 'nobody';
const GROUP = 'group ';

export function decisionOf(table: RuleTable, names: Names): Decision {
  const asks = names.steps.filter(({ id }) => table.asks.includes(id));
  const days = names.steps.filter(({ id }) => table.days.includes(id));
  const fills = names.answers.filter(({ id }) => table.fills?.includes(id) === true);
  const byWeight = [...table.rows].sort((a, b) => weightOf(b) - weightOf(a));
  const whom = (row: Rule, step: string): string => whomText(givesOf(row, step), names);
  const filled = (row: Rule, answer: string): string => names.shown(fillOf(row, answer)) || 'null';
  return {
    name: table.label,
    hit: table.hit,
    inputs: table.conditions.map(({ expression }) => ({
      expression: names.shown(expression),
      type: names.type(expression),
    })),
    outputs: [
      ...asks.map(({ id, label }) => ({
        name: `${ASK}${label}`,
        type: 'Any',
        ...(table.hit === 'P' && { values: [...new Set(byWeight.map((row) => whom(row, id)))] }),
      })),
      ...days.map(({ label }) => ({ name: `${DAYS}${label}`, type: 'number' })),
      ...fills.map(({ id, label, type }) => ({
        name: label,
        type,
        ...(table.hit === 'P' &&
          asks.length === 0 && { values: [...new Set(byWeight.map((row) => filled(row, id)))] }),
      })),
    ],
    rules: table.rows.map((row) => ({
      tests: table.conditions.map(({ id, expression }) => {
        const test = testOf(row, id);
        return test === '' ? '-' : names.testShown(test, expression);
      }),
      gives: [
        ...asks.map(({ id }) => whom(row, id)),
        ...days.map(({ id }) => String(givesOf(row, id).days ?? 'null')),
        ...fills.map(({ id }) => filled(row, id)),
      ],
    })),
  };
}

/** Whom a row asks as a FEEL expression: texts, and whoever the answers name as it is written. */
function whomText(gives: RuleGives, { people, groups, shown }: Names): string {
  const texts = [
    ...(gives.nobody === true ? [NOBODY] : []),
    ...managers.slice(levelsOf(gives) - 1, levelsOf(gives)),
    ...(gives.groups ?? [])
      .flatMap((id) => groups.find((one) => one.id === id)?.label ?? [])
      .map((label) => `${GROUP}${label}`),
    ...gives.people.flatMap((id) => people.find((one) => one.id === id)?.label ?? []),
  ].map(quotedText);
  const all = gives.named === undefined ? texts : [...texts, shown(gives.named)];
  return all.length === 1 ? (all[0] ?? '') : `[${all.join(', ')}]`;
}

/**
 * A decision in place of what a table holds; ids are new. What it asks for that is not here is told in words,
 * and left out. Outputs stand for the steps of their name, or else in order.
 */
export function tableOfDecision(
  { name, hit, inputs, outputs, rules }: Decision,
  table: RuleTable,
  names: Names,
  newId: () => string,
): { readonly table: RuleTable; readonly unknown: readonly string[] } {
  const conditions = inputs.map(({ expression }) => ({ id: newId(), expression: names.stored(expression) }));
  const unknown = new Set<string>();
  const columns = columnsOf(outputs, table, names, unknown);
  const rows = rules.map(({ tests, gives }): Rule => {
    const weight = hit === 'P' ? weightOfGiven(outputs, gives) : undefined;
    return {
      id: newId(),
      cells: conditions.flatMap(({ id, expression }, i) => {
        const test = (tests[i] ?? '').trim();
        return test === '' || test === '-'
          ? []
          : [{ condition: id, test: names.testStored(test, expression) }];
      }),
      gives: givenIn(gives, columns, names, unknown),
      ...fillIn(gives, columns, names),
      ...(weight !== undefined && { weight }),
    };
  });
  const steps = (of: Column['of']): string[] => columns.flatMap((one) => (one?.of === of ? [one.step] : []));
  return {
    table: {
      ...table,
      label: name || table.label,
      hit,
      conditions,
      rows,
      asks: [...new Set([...table.asks, ...steps('ask')])],
      days: steps('days'),
      fills: steps('fill').length === 0 ? undefined : steps('fill'),
    },
    unknown: [...unknown],
  };
}

interface Column {
  readonly of: 'ask' | 'days' | 'fill';
  /** The step; or the answer that is filled. */
  readonly step: string;
}

/**
 * What each output stands for: whom a step of its name asks, or its days; else the steps of the table in
 * their order. Null for what stands for nothing.
 */
function columnsOf(
  outputs: Decision['outputs'],
  table: RuleTable,
  { steps, answers }: Names,
  unknown: Set<string>,
): readonly (Column | null)[] {
  const named = (name: string, before: string): string | undefined =>
    name.startsWith(before) ? steps.find(({ label }) => label === name.slice(before.length))?.id : undefined;
  const taken = new Set<string>();
  return outputs.map(({ name, type }): Column | null => {
    const [ask, days] = [named(name, ASK), named(name, DAYS)];
    if (days !== undefined) return { of: 'days', step: days };
    const fill = ask === undefined ? answers.find(({ label }) => label === name) : undefined;
    if (fill !== undefined) return { of: 'fill', step: fill.id };
    const of = type === 'number' ? 'days' : 'ask';
    const step = ask ?? table.asks.find((id) => !taken.has(`${of} ${id}`));
    if (step === undefined) {
      unknown.add(name);
      return null;
    }
    taken.add(`${of} ${step}`);
    return { of, step };
  });
}

function givenIn(
  gives: readonly string[],
  columns: readonly (Column | null)[],
  names: Names,
  unknown: Set<string>,
): RuleGives[] {
  const found = new Map<string, RuleGives>();
  columns.forEach((column, i) => {
    if (column === null || column.of === 'fill') return;
    const before = found.get(column.step) ?? { step: column.step, people: [] };
    const text = (gives[i] ?? '').trim();
    const days = Number(text);
    const part =
      column.of === 'ask' ? whomIn(text, names, unknown) : Number.isInteger(days) && days > 0 ? { days } : {};
    found.set(column.step, { ...before, ...part });
  });
  return [...found.values()];
}

/** What a row gives answers; `null` says nothing. */
function fillIn(
  gives: readonly string[],
  columns: readonly (Column | null)[],
  { stored }: Names,
): Pick<Rule, 'fill'> {
  const fill = columns.flatMap((column, i): RuleFill[] => {
    const text = (gives[i] ?? '').trim();
    return column?.of !== 'fill' || ['', '-', 'null'].includes(text)
      ? []
      : [{ question: column.step, expression: stored(text) }];
  });
  return fill.length === 0 ? {} : { fill };
}

function whomIn(
  text: string,
  { people, groups, stored }: Names,
  unknown: Set<string>,
): Omit<RuleGives, 'step'> {
  const { texts, others } = unquotedTexts(text);
  const asked: string[] = [];
  const grouped: string[] = [];
  for (const one of texts) {
    if (managers.includes(one) || one === NOBODY) continue;
    const group = one.startsWith(GROUP)
      ? groups.find(({ label }) => label === one.slice(GROUP.length))
      : undefined;
    const person = people.find(({ label }) => label === one);
    if (group !== undefined) grouped.push(group.id);
    else if (person !== undefined) asked.push(person.id);
    else unknown.add(one);
  }
  const [named] = others;
  return {
    people: asked,
    ...(grouped.length > 0 && { groups: grouped }),
    ...managerIn(texts),
    ...(named !== undefined && { named: stored(named) }),
    ...(texts.includes(NOBODY) && { nobody: true as const }),
  };
}

function managerIn(texts: readonly string[]): Pick<RuleGives, 'manager'> {
  const level = managers.findLastIndex((one) => texts.includes(one)) + 1;
  return level === 0 ? {} : { manager: level === 1 ? true : level === 2 ? 2 : 3 };
}

/** The earlier a value is listed, the more it weighs. */
function weightOfGiven(outputs: Decision['outputs'], gives: readonly string[]): number {
  const at = outputs.findIndex(({ values }) => values !== undefined && values.length > 0);
  const values = outputs[at]?.values ?? [];
  const place = values.indexOf((gives[at] ?? '').trim());
  return place < 0 ? 0 : values.length - place;
}
