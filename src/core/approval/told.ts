import { columnsRead } from '../expression/tree';
import { isList, isRecord } from '../expression/value';
import { rulesIn, type ApprovalStep } from '../form/design';
import type { Sheet } from '../form/sheet';
import { askedId, givenId, placeId, whomId } from '../form/written-expressions';
import { asksNobody, rulesFor } from '../rules/ruled-steps';
import { holdersAt, type Directory } from './directory';
import { decided, type Decided, type Ruled, type RuleTable } from '../rules/rules';

/** Whom the answers name, by the id of the step that asks them. */
export type Named = Readonly<Record<string, readonly string[]>>;

/** What is told of the path from the answers when a sheet is sent, and kept with it. */
export interface Told {
  /** Steps that are not asked, by id. */
  readonly skipped: readonly string[];
  /** Whom the answers name. */
  readonly named: Named;
  /** The rows of rules that count. */
  readonly ruled: Ruled;
}

/** Where the directory is not at hand, whoever is at a place is left to the server. */
export function toldOf(sheet: Sheet, directory: Directory | null): Told {
  const ruled = ruledIn(sheet);
  const skipped = sheet.form.design.steps.filter((step) => isSkipped(step, sheet, ruled));
  return { ruled, named: namedIn(sheet, ruled, directory), skipped: skipped.map(({ id }) => id) };
}

/** What a table of rules says of a sheet as it is. A row of which it cannot be told does not fit. */
export function rulesOf(table: RuleTable, sheet: Sheet): Decided {
  const fits = sheet.value([table.id]);
  return decided(table, isList(fits) ? table.rows.filter((_, i) => fits[i] === true) : []);
}

const ruledIn = (sheet: Sheet): Ruled =>
  Object.fromEntries(
    rulesIn(sheet.form.design).map((table) => {
      const told = rulesOf(table, sheet);
      return [table.id, told.t === 'decided' ? told.rows.map(({ id }) => id) : []];
    }),
  );

/**
 * Whether a step is not asked about a sheet as it is: its condition is there and not true, or the rules say
 * so. What cannot be told is asked.
 */
export const isSkipped = (step: ApprovalStep, sheet: Sheet, ruled: Ruled): boolean =>
  (step.when !== undefined && sheet.value([askedId(step.id)]) === false) ||
  asksNobody(rulesIn(sheet.form.design), ruled, step.id);

/** Whom the answers name, of each step that asks by them. Nobody where that cannot be told. */
function namedIn(sheet: Sheet, ruled: Ruled, directory: Directory | null): Named {
  const { design } = sheet.form;
  const personAt = (formula: string): string[] => {
    const value = sheet.value([formula]);
    return isRecord(value) ? [value.id] : [];
  };
  return Object.fromEntries(
    design.steps.flatMap((step) => {
      const tables = rulesFor(rulesIn(design), step.id);
      const formulas =
        tables.length > 0
          ? tables.flatMap((table) => formulasOf(table, step.id, ruled))
          : step.named === undefined
            ? []
            : [whomId(step.id)];
      const { role } = step;
      const holders =
        tables.length > 0 || role === undefined || directory === null
          ? []
          : holdersAt(role.group, placesAt(step, sheet), directory);
      const people = [...new Set([...formulas.flatMap(personAt), ...holders])];
      return people.length === 0 ? [] : [[step.id, people]];
    }),
  );
}

/**
 * The place at which a step asks somebody, as the answers tell it: of a choice as it is called, and by its
 * code. Nothing where it cannot be told.
 */
export function placesAt(step: ApprovalStep, sheet: Sheet): string[] {
  const { form } = sheet;
  const value = sheet.value([placeId(step.id)]);
  if (typeof value !== 'string') return [];
  const formula = form.formulas.find(({ id }) => id === placeId(step.id));
  const columns = formula?.tree == null ? [] : columnsRead(formula.tree);
  const choices = [
    ...[...(formula?.reads ?? [])].map((id) => form.fields.get(id)?.question),
    ...columns.map(([table, column]) => form.tables.get(table)?.columns.find(({ id }) => id === column)),
  ].flatMap((one) => (one !== undefined && 'choices' in one ? (one.choices ?? []) : []));
  return [...choices.filter(({ code }) => code === value).map(({ label }) => label), value];
}

const formulasOf = ({ id, rows }: RuleTable, step: string, ruled: Ruled): string[] =>
  rows
    .filter((row) => ruled[id]?.includes(row.id) === true)
    .filter((row) => row.gives.some((one) => one.step === step && one.named !== undefined))
    .map((row) => givenId(row.id, step));
