import { isList, same, type Value } from '../expression/value';
import type { Closure } from '../expression/compile';
import { fillOf, weightOf, type HitPolicy, type Rule, type RuleTable } from '../rules/rules';
import { rulesIn, type CalculatedQuestion, type FormDesign } from './design';
import type { Formula } from './formula';

/** Policies under which one row counts, or all that count give the same, so that an answer can be filled by it. */
export const fillingPolicies: readonly HitPolicy[] = ['U', 'A', 'P', 'F'];

/** What a row of a table of rules gives an answer. */
export const fillId = (row: string, question: string): string => `${row}:${question}:fill`;
/** What an answer that rules fill is worked out from where they do not say. */
export const otherwiseId = (question: string): string => `${question}:otherwise`;

/** The rules that fill a calculated answer of the form itself; undefined where it is worked out by its own expression. */
export const filledBy = (design: FormDesign, question: string): RuleTable | undefined =>
  rulesIn(design).find(({ fills = [] }) => fills.includes(question));

/** The rows that say something of an answer: an empty cell leaves it to the others. */
export const fillingRows = ({ rows }: RuleTable, question: string): Rule[] =>
  rows.filter((row) => fillOf(row, question) !== '');

/** The answer as the rules give it, or else as its own expression does. */
export function filledFormula(question: CalculatedQuestion, table: RuleTable): Formula {
  const rows = fillingRows(table, question.id);
  const ids = rows.map((row) => fillId(row.id, question.id));
  const otherwise = otherwiseId(question.id);
  const run: Closure = (from) => {
    const fits = from.read(table.id);
    const given = rows.flatMap((row, i): Given[] =>
      isList(fits) && fits[table.rows.indexOf(row)] === true ? [{ row, value: from.read(ids[i] ?? '') }] : [],
    );
    const found = valueOf(table.hit, given);
    return found === undefined ? from.read(otherwise) : found;
  };
  return {
    id: question.id,
    what: { t: 'calculated', question },
    group: null,
    run,
    tree: null,
    reads: new Set([table.id, otherwise, ...ids]),
    wide: false,
  };
}

interface Given {
  readonly row: Rule;
  readonly value: Value;
}

/** DMN 1.5, clause 8.2.8. Undefined where no row fits; null where more fit than may, and it cannot be told which is meant. */
export function valueOf(hit: HitPolicy, given: readonly Given[]): Value | undefined {
  const [first, ...more] = given;
  if (first === undefined) return undefined;
  if (hit === 'U') return more.length === 0 ? first.value : null;
  if (hit === 'A') return more.every(({ value }) => same(value, first.value)) ? first.value : null;
  if (hit === 'P')
    return given.reduce((most, one) => (weightOf(one.row) > weightOf(most.row) ? one : most)).value;
  return hit === 'F' ? first.value : null;
}
