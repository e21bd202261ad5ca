import { columnKindOf } from '../../core/form/column-kind';
import {
  groupsOf,
  isField,
  questionsOf,
  totalsBeside,
  type FieldQuestion,
  type FormDesign,
  type Total,
} from '../../core/form/design';
import { keptColumns, type Column, type Table } from '../../core/table/model';

/** What is kept in one table: an answer, or what rows add up to. */
export interface Kept {
  readonly id: string;
  readonly label: string;
  /** Null for a total. */
  readonly question: FieldQuestion | null;
}

/** A column of the table as it will be: `from` is the place of what fills it among the answers, null for nothing of this form. */
export interface Holding {
  readonly column: Column;
  readonly isNew: boolean;
  readonly from: number | null;
  /** It holds another kind than is asked. */
  readonly isOther: boolean;
}

/** Answers on one side, columns on the other, in the order of each. */
export function storeLines(
  design: FormDesign,
  wanted: Table,
  there: Table | undefined,
): { readonly kept: readonly Kept[]; readonly columns: readonly Holding[] } {
  const kept = keptOf(design, wanted.id);
  const fresh = wanted.columns.filter(({ id }) => !there?.columns.some((column) => column.id === id));
  const known = there === undefined ? [] : keptColumns(there);
  const holding = (column: Column, isNew: boolean): Holding => {
    const at = kept.findIndex(({ id }) => id === column.id);
    const question = kept[at]?.question ?? null;
    return {
      column,
      isNew,
      from: at < 0 ? null : at,
      isOther: !isNew && question !== null && isOther(question, column),
    };
  };
  return {
    kept,
    columns: [
      ...known.map((column) => holding(column, false)),
      ...fresh.map((column) => holding(column, true)),
    ],
  };
}

const isOther = (question: FieldQuestion, column: Column): boolean =>
  columnKindOf(question) !== column.kind ||
  (question.kind === 'lookup' && question.table !== column.target) ||
  ('decimals' in question && question.kind !== 'calculated' && question.decimals !== (column.decimals ?? 0));

function keptOf(design: FormDesign, table: string): Kept[] {
  if (table === design.table.id)
    return questionsOf(design).flatMap((one): Kept[] =>
      one.kind === 'rows' && one.within === undefined
        ? one.totals.map(totalAsKept)
        : isField(one)
          ? [asKept(one)]
          : [],
    );
  const group = groupsOf(design).find((one) => one.table.id === table);
  return group === undefined
    ? []
    : [...group.columns.map(asKept), ...totalsBeside(design, group).map(totalAsKept)];
}

const totalAsKept = ({ id, label }: Total): Kept => ({ id, label, question: null });

const asKept = (question: FieldQuestion): Kept => ({ id: question.id, label: question.label, question });
