import { givesOf, levelsOf, type RuleGives, type RuleTable, type Ruled, type Whom } from './rules';

interface AskingStep extends Whom {
  readonly id: string;
  readonly within?: number | undefined;
  readonly hours?: true | undefined;
  readonly role?: unknown;
}

/** What the table that does not say is called. */
export interface Undecided {
  readonly undecided?: string;
}

/** The tables that say whom a step asks. */
export const rulesFor = (rules: readonly RuleTable[], step: string): RuleTable[] =>
  rules.filter(({ asks }) => asks.includes(step));

/** What the rows that count give a step; null where one of its tables does not say. */
function givenTo(rules: readonly RuleTable[], ruled: Ruled, step: string): RuleGives[] | null {
  const all = rulesFor(rules, step).map(({ id, rows }) =>
    rows.filter((row) => ruled[id]?.includes(row.id) === true).map((row) => givesOf(row, step)),
  );
  return all.some((gives) => gives.length === 0) ? null : all.flat();
}

/**
 * Steps as the rules make them ask: whom the rows that count say, all of them together, within the least of
 * their days. A step that a table does not decide about asks nobody by itself. `named` is there where the
 * answers name somebody; it is worked out at its row.
 */
export const ruledSteps = <S extends AskingStep>(
  steps: readonly S[],
  rules: readonly RuleTable[],
  ruled: Ruled,
): (S & Undecided)[] => steps.map((step) => withDays(withWhom(step, rules, ruled), rules, ruled));

function withWhom<S extends AskingStep>(step: S, rules: readonly RuleTable[], ruled: Ruled): S & Undecided {
  const tables = rulesFor(rules, step.id);
  if (tables.length === 0) return step;
  const given = givenTo(rules, ruled, step.id) ?? [];
  const silent = tables.find(({ id }) => (ruled[id] ?? []).length === 0);
  const groups = [...new Set(given.flatMap((one) => one.groups ?? []))];
  const { groups: _g, manager: _m, named: _n, role: _r, undecided: _u, ...rest } = step as S & Undecided;
  return {
    ...(rest as unknown as S),
    people: [...new Set(given.flatMap(({ people }) => people))],
    ...(groups.length > 0 && { groups }),
    ...highestOf(given),
    ...(given.some(({ named }) => named !== undefined) && { named: '' }),
    ...(silent !== undefined && { undecided: silent.label }),
  };
}

/** Of rows that count together, the highest level above the sender. */
function highestOf(given: readonly RuleGives[]): Pick<Whom, 'manager'> {
  const levels = given.map(levelsOf).reduce((most, one) => (one > most ? one : most), 0);
  return levels === 0 ? {} : { manager: levels === 1 ? true : levels };
}

function withDays<S extends AskingStep>(step: S, rules: readonly RuleTable[], ruled: Ruled): S {
  const days = rules
    .filter((table) => table.days.includes(step.id))
    .flatMap(({ id, rows }) => rows.filter((row) => ruled[id]?.includes(row.id) === true))
    .flatMap((row) => givesOf(row, step.id).days ?? []);
  return days.length === 0 ? step : { ...step, within: Math.min(...days), hours: undefined };
}

/** Whether the rows that count say that a step is not asked: all of them, and each table has one. */
export function asksNobody(rules: readonly RuleTable[], ruled: Ruled, step: string): boolean {
  const given = rulesFor(rules, step).length === 0 ? null : givenTo(rules, ruled, step);
  return given !== null && given.every(({ nobody }) => nobody === true);
}
