import { compile } from '../expression/compile';
import type { World } from '../expression/functions/builtin';
import { read } from '../expression/read';
import type { Column, Table } from '../table/model';
import { noAnswers, type Answers, type Raw } from './answers';
import { retyped } from './cells';
import { sameRows } from './starting-rows';
import { groupsOf, isTyped, fieldsOfForm, type FieldQuestion, type FormDesign } from './design';

/** By group, then by column: what a row begins with. */
export type RowDefaults = Readonly<Record<string, Readonly<Record<string, Raw>>>>;

/**
 * What a new sheet begins with: the defaults of the columns it is kept in, as they would be typed, so that whoever fills it sees and may change them, and the
 * rows that are the same each time.
 */
export function defaultAnswers(
  design: FormDesign,
  tables: ReadonlyMap<string, Table>,
  world: World,
): { answers: Answers; rows: RowDefaults } {
  const table = tables.get(design.table.id);
  const values = defaultsOf(fieldsOfForm(design), table, world);
  const rows: RowDefaults = Object.fromEntries(
    groupsOf(design).map((group) => [group.id, defaultsOf(group.columns, tables.get(group.table.id), world)]),
  );
  return { answers: { ...noAnswers, values, rows: sameRows(design, rows) }, rows };
}

function defaultsOf(
  questions: readonly FieldQuestion[],
  table: Table | undefined,
  world: World,
): Record<string, Raw> {
  return Object.fromEntries(
    questions.flatMap((question): [string, Raw][] => {
      const column = table?.columns.find(({ id }) => id === question.id);
      // What is brought along from a looked-up record comes with the pick.
      if (column === undefined || !isTyped(question) || question.carry !== undefined) return [];
      const raw = defaultOf(question, column, world);
      return raw === null ? [] : [[question.id, raw]];
    }),
  );
}

function defaultOf(question: FieldQuestion, column: Column, world: World): Raw {
  if (column.default.trim() === '') return null;
  const tree = read(column.default, new Map());
  if (!tree.ok) return null;
  const value = compile(tree.value)({
    ...world,
    read: () => null,
    column: () => [],
    gaveUp: () => undefined,
  });
  return retyped(question, value);
}
