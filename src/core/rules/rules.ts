import { sameJson } from '../kernel/same-json';

/** DMN 1.5, clause 8.2.8: which rows count of those that fit. */
export const hitPolicies = ['U', 'A', 'P', 'F', 'R', 'C'] as const;
/**
 * U (unique): one alone may fit. A (any): several may, if they give the same. P (priority): the one that weighs most.
 * F (first), R (rule order) and C (collect): all that fit, in R in their order.
 */
export type HitPolicy = (typeof hitPolicies)[number];

/** Whom something asks. Groups and the manager are looked up when they are asked. */
export interface Whom {
  readonly people: readonly string[];
  /** Groups of people, by id: whoever is in one when the step begins. Left out, none. */
  readonly groups?: readonly string[] | undefined;
  /** Whoever is the sender's manager when the step begins, or so many levels above; where there are fewer, whoever is highest. */
  readonly manager?: true | 2 | 3 | undefined;
  /** FEEL as stored text: whoever it names, told when the sheet is sent. Left out, nobody. */
  readonly named?: string | undefined;
}

export interface RuleCondition {
  readonly id: string;
  /** FEEL as stored text: what the cells below it are tests of. */
  readonly expression: string;
}

/** A condition that has no cell in a row may be anything. */
export interface RuleCell {
  readonly condition: string;
  /** FEEL unary tests as stored text. */
  readonly test: string;
}

/** What a row gives a step. */
export interface RuleGives extends Whom {
  readonly step: string;
  /** The step is not asked. */
  readonly nobody?: true | undefined;
  /** Working days to decide. Left out, those of the step. */
  readonly days?: number | undefined;
}

/** What a row gives a calculated answer. */
export interface RuleFill {
  readonly question: string;
  readonly expression: string;
}

export interface Rule {
  readonly id: string;
  readonly cells: readonly RuleCell[];
  readonly gives: readonly RuleGives[];
  /** What it gives answers that the table fills, FEEL as stored text. Left out, and where one is missing, nothing. */
  readonly fill?: readonly RuleFill[] | undefined;
  /** Under P: of those that fit, the one that weighs most counts; of the same weight the first. Left out, 0. */
  readonly weight?: number | undefined;
}

/** `asks` and `days`: the steps whose people, and whose time, it tells. */
export interface RuleTable {
  readonly id: string;
  readonly label: string;
  readonly hit: HitPolicy;
  readonly conditions: readonly RuleCondition[];
  readonly asks: readonly string[];
  readonly days: readonly string[];
  /** Calculated answers of the form, by id, that it fills. Left out, none. */
  readonly fills?: readonly string[] | undefined;
  readonly rows: readonly Rule[];
}

/** The rows that count, by id of their table; none where it cannot be told. Kept with what is sent. */
export type Ruled = Readonly<Record<string, readonly string[]>>;

export type Decided =
  | { readonly t: 'decided'; readonly rows: readonly Rule[] }
  | { readonly t: 'nothing' }
  /** More fit than may, and they do not give the same. */
  | { readonly t: 'several'; readonly rows: readonly Rule[] };

/** Which rows count of those that fit, in the order of the table. */
export function decided({ hit }: Pick<RuleTable, 'hit'>, fitting: readonly Rule[]): Decided {
  const [first] = fitting;
  if (first === undefined) return { t: 'nothing' };
  switch (hit) {
    case 'U':
      return fitting.length === 1 ? { t: 'decided', rows: [first] } : { t: 'several', rows: fitting };
    case 'A':
      return fitting.every((row) => givesAlike(row, first))
        ? { t: 'decided', rows: [first] }
        : { t: 'several', rows: fitting };
    case 'P':
      return {
        t: 'decided',
        rows: [fitting.reduce((most, row) => (weightOf(row) > weightOf(most) ? row : most))],
      };
    case 'F':
      return { t: 'decided', rows: [first] };
    case 'R':
    case 'C':
      return { t: 'decided', rows: fitting };
  }
}

export const weightOf = ({ weight = 0 }: Rule): number => weight;

/** Whether two rows give the same, whatever the order they say it in. */
export const givesAlike = (a: Rule, b: Rule): boolean =>
  sameJson(sorted(a), sorted(b)) && sameJson(sortedFill(a), sortedFill(b));

const sortedFill = ({ fill = [] }: Rule) =>
  [...fill].sort((one, other) => (one.question < other.question ? -1 : 1));

const sorted = ({ gives }: Rule) =>
  [...gives]
    .sort((one, other) => (one.step < other.step ? -1 : 1))
    .map(({ people, groups = [], ...rest }) => ({
      ...rest,
      people: [...people].sort(),
      groups: [...groups].sort(),
    }));

export const testOf = ({ cells }: Rule, condition: string): string =>
  cells.find((cell) => cell.condition === condition)?.test ?? '';

export const givesOf = ({ gives }: Rule, step: string): RuleGives =>
  gives.find((one) => one.step === step) ?? { step, people: [] };

/** What a row gives an answer; empty where it says nothing of it. */
export const fillOf = ({ fill = [] }: Rule, question: string): string =>
  (fill.find((one) => one.question === question)?.expression ?? '').trim();

/** How many levels above the sender; 0 for none. */
export const levelsOf = ({ manager }: Pick<Whom, 'manager'>): 0 | 1 | 2 | 3 =>
  manager === true ? 1 : (manager ?? 0);

/** Whether a row says anything of whom a step asks. */
export const saysWhom = ({ people, groups, manager, named, nobody }: RuleGives): boolean =>
  nobody === true ||
  people.length > 0 ||
  groups !== undefined ||
  manager !== undefined ||
  named !== undefined;
