import type { Closure } from '../expression/compile';
import type { Expression } from '../expression/tree';
import type { Check } from '../check/check';
import type { Issue } from '../kernel/issue';
import type { RuleTable } from '../rules/rules';
import type { FurtherWrite } from '../storage/further-write';
import type {
  ApprovalStep,
  CalculatedQuestion,
  FieldQuestion,
  LookupQuestion,
  Mailed,
  Question,
  RowsQuestion,
  Section,
  Total,
} from './design';

/** What a formula is for. */
export type FormulaUse =
  | { readonly t: 'calculated'; readonly question: CalculatedQuestion }
  | { readonly t: 'following'; readonly question: FieldQuestion }
  | { readonly t: 'total'; readonly total: Total }
  | { readonly t: 'check'; readonly check: Check }
  /** A value that stands in the message of a check. */
  | { readonly t: 'message'; readonly check: Check; readonly index: number }
  /** A value in what a mail says besides. */
  | { readonly t: 'mail'; readonly on: Mailed; readonly index: number }
  | { readonly t: 'asked'; readonly of: Question | Section }
  | { readonly t: 'required'; readonly of: Question }
  /** Whether what is picked fits the filter of its lookup. */
  | { readonly t: 'fits'; readonly question: LookupQuestion }
  /** Of which records of its lookup a group begins with a row; asked of the database alone. */
  | { readonly t: 'starts'; readonly group: RowsQuestion; readonly question: LookupQuestion }
  /** Whether a step of the path is asked. */
  | { readonly t: 'step'; readonly step: ApprovalStep }
  /** Which rows of a table of rules fit: of each, whether it does. */
  | { readonly t: 'rules'; readonly table: RuleTable }
  /** Whom a row of a table of rules asks because of the answers. */
  | { readonly t: 'given'; readonly table: RuleTable; readonly row: string; readonly step: string }
  /** What a row of a table of rules gives an answer; and what that is where the rules do not say. */
  | { readonly t: 'fill'; readonly table: RuleTable; readonly question: CalculatedQuestion }
  | { readonly t: 'otherwise'; readonly question: CalculatedQuestion }
  /** Whom a step of the path asks because of the answers. */
  | { readonly t: 'whom'; readonly step: ApprovalStep }
  /** The place at which a step asks somebody of a group. */
  | { readonly t: 'place'; readonly step: ApprovalStep }
  /** Whether something is written further (`column` null), or what a column of it becomes. */
  | { readonly t: 'further'; readonly write: FurtherWrite; readonly column: string | null };

/** Something the sheet works out: an answer, a total, whether a check holds, or whether something is asked. */
export interface Formula {
  readonly id: string;
  readonly what: FormulaUse;
  /** The repeating group it stands in, calculated once per row; null for once per form. */
  readonly group: string | null;
  readonly run: Closure;
  /** The typed tree; null for what is not written as an expression. */
  readonly tree: Expression | null;
  readonly reads: ReadonlySet<string>;
  /** Reads a column over all rows, so that a change in one row may change it in every row. */
  readonly wide: boolean;
}

/**
 * Where what is wrong with a formula is told: at its check, at the setting of the question or section it
 * belongs to, or at what it fills.
 */
export function formulaPath({ id, what }: Pick<Formula, 'id' | 'what'>): Issue['path'] {
  switch (what.t) {
    case 'check':
      return ['checks', what.check.id];
    case 'message':
      return ['checks', what.check.id, 'message'];
    case 'mail':
      return ['mails', what.on];
    case 'asked':
      return [what.of.id, 'questions' in what.of ? 'showWhen' : 'askWhen'];
    case 'required':
      return [what.of.id, 'requireWhen'];
    case 'fits':
      return [what.question.id, 'where'];
    case 'starts':
      return [what.group.id, 'starts'];
    case 'step':
      return ['steps', what.step.id, 'when'];
    case 'whom':
      return ['steps', what.step.id, 'named'];
    case 'place':
      return ['steps', what.step.id, 'role'];
    case 'rules':
      return ['rules', what.table.id];
    case 'given':
      return ['rules', what.table.id, what.row, what.step];
    case 'further':
      return ['further', what.write.id, what.column ?? 'when'];
    case 'fill':
      return ['rules', what.table.id];
    case 'otherwise':
      return [what.question.id];
    case 'calculated':
    case 'following':
    case 'total':
      return [id];
  }
}
