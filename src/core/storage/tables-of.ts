import { totalDecimals, totalUnit } from '../form/totals';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { calculatedKind, columnKindOf } from '../form/column-kind';
import {
  groupsIn,
  isField,
  isTyped,
  outerFirst,
  outerOf,
  type FieldQuestion,
  type FormDesign,
  type RowsQuestion,
  type TableTarget,
  type Total,
} from '../form/design';

/**
 * The tables a design keeps its answers in: one for the form, one for each repeating group, whose rows belong
 * to the first or to the one they stand in.
 */
export function tablesOf(design: FormDesign): Table[] {
  const own = design.sections.flatMap(({ questions, showWhen }) =>
    questions.flatMap((one) =>
      one.kind === 'rows' && one.within === undefined
        ? totalColumns(one)
        : isField(one)
          ? [columnOf(one, showWhen !== undefined)]
          : [],
    ),
  );
  return [
    tableOf(design.table, null, own),
    ...outerFirst(design).map((group) =>
      tableOf(group.table, (outerOf(design, group) ?? design).table.id, [
        ...group.columns.map((column) => columnOf(column, false)),
        ...groupsIn(design, group).flatMap(totalColumns),
      ]),
    ),
  ];
}

function tableOf(target: TableTarget, parent: string | null, columns: Column[]): Table {
  return {
    ...plainTable,
    id: target.id,
    key: target.key,
    label: target.label,
    prefix: target.prefix,
    parent,
    columns,
  };
}

function columnOf(question: FieldQuestion, conditional: boolean): Column {
  return {
    ...plainColumn,
    id: question.id,
    key: question.key,
    label: question.keptAs ?? question.label,
    kind: columnKindOf(question),
    // What is calculated may be empty (a division by zero), and so may what is not always asked.
    required: question.required && isTyped(question) && question.askWhen === undefined && !conditional,
    decimals:
      'decimals' in question && (question.kind !== 'calculated' || calculatedKind(question) === 'decimal')
        ? question.decimals
        : null,
    unit: 'unit' in question ? question.unit : '',
    choices: 'choices' in question ? question.choices : [],
    list: 'choices' in question ? (question.list ?? null) : null,
    target: question.kind === 'lookup' ? question.table : null,
    description: question.hint,
  };
}

const totalColumns = (group: RowsQuestion): Column[] =>
  group.totals.map((total) => totalColumn(group, total));

const totalColumn = (group: RowsQuestion, total: Total): Column => ({
  ...plainColumn,
  id: total.id,
  key: total.key,
  label: total.label,
  kind: 'decimal',
  decimals: totalDecimals(group, total),
  unit: totalUnit(group, total),
});
