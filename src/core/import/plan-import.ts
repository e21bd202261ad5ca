import type { Table } from '../table/model';
import { isDeclined, readingIn, type Draft, type Making } from './draft-columns';
import { tablesOf } from './drafts';
import type { Decisions } from './decisions';
import type { DetectedRelation, Detection } from './detection';
import { MARK_PAIR } from './formats/words';
import type { ImportPlan, PlannedColumn, PlannedTable } from './import-plan';
import { isAdding, relationId, relationsOf } from './references';

/** `there` are the tables there are: new ones are told apart from them, and rows may come into them. The same input gives the same ids. */
export function planImport(
  importId: string,
  detection: Detection,
  decisions: Decisions,
  there: readonly Table[] = [],
): ImportPlan {
  const making: Making = {
    relations: relationsOf(detection, decisions),
    importId,
    detection,
    decisions,
    there,
    taken: new Set(there.map(({ key }) => key)),
    prefixes: new Set(there.map(({ prefix }) => prefix)),
  };
  const sheets = detection.sheets.filter(({ name }) => decisions.sheets[name]?.leaveOut !== true);
  const tables = inOrder(
    withRoomForNew(
      withReferences(
        sheets.flatMap((sheet) => tablesOf(sheet, making)),
        making,
      ),
    ),
  );
  return { tables, named: namedThere(tables, making) };
}

/** Of each new column that names records of a table there is, and adds to it, the names that are not there. */
function namedThere(tables: readonly PlannedTable[], { there }: Making): PlannedTable[] {
  const adding = tables
    .filter(({ into }) => into === null)
    .flatMap(({ sheet, columns }) =>
      columns.flatMap(({ finds, at, reading }) =>
        finds?.adds === true ? [{ sheet, finds, at, reading }] : [],
      ),
    );
  return adding.flatMap(({ sheet, finds, at, reading }) => {
    const table = there.find(({ id }) => id === finds.table);
    const column = table?.columns.find(({ id }) => id === finds.column);
    if (table === undefined || column === undefined) return [];
    return at.map((place): PlannedTable => ({
      sheet,
      table,
      rows: { t: 'distinct', by: place, unless: column.id },
      into: { table: table.id, by: [column.id], columns: {}, blanks: 'leave', what: 'add' },
      columns: [
        {
          column: { ...column, required: false },
          at: [place],
          reading,
          finds: null,
        },
      ],
    }));
  });
}

/** Values that are found in another sheet or table become references to its records. */
function withReferences(drafts: readonly Draft[], making: Making): PlannedTable[] {
  const accepted = making.relations.filter(
    (one) => one.alongWith === null && !isDeclined(making, relationId(one)),
  );
  return drafts.map(({ columns, ...draft }) => {
    // What refers to what is settled in a table there is.
    if (draft.into !== null) return { ...draft, columns: columns.map(({ headings, found, ...one }) => one) };
    const planned = columns.map(({ headings, found, ...one }): PlannedColumn => {
      const relation = accepted.find(
        ({ from }) => from.sheet === draft.sheet && headings.includes(from.column),
      );
      const finds =
        draft.rows.t === 'distinct' && headings[0] === columns[0]?.headings[0]
          ? null
          : (groupFound(drafts, draft, headings) ??
            (relation === undefined ? null : relationFound(drafts, relation, making)));
      return finds === null
        ? one
        : {
            ...one,
            finds,
            reading: readingIn({ name: draft.sheet }, { headings, found, ...one }, making),
            column: {
              ...one.column,
              kind: 'reference',
              choices: [],
              decimals: null,
              unit: '',
              unique: false,
              target: finds.table,
              required:
                one.column.required &&
                found.emptyWords === undefined &&
                ((relation?.missed ?? 0) === 0 || finds.adds),
            },
          };
    });
    return {
      ...draft,
      table: { ...draft.table, columns: planned.map(({ column }) => column) },
      columns: planned,
    };
  });
}

/** Where only a tick is written, a blank says no. */
const isMark = ({ column, reading }: PlannedColumn): boolean =>
  column.kind === 'yes-no' && reading.yesNo === MARK_PAIR;

/** Of a record that is made for a value that was not found nothing is known but that value. */
function withRoomForNew(tables: readonly PlannedTable[]): PlannedTable[] {
  const added = new Set(
    tables.flatMap(({ columns }) =>
      columns.flatMap(({ finds }) => (finds?.adds === true ? [finds.column] : [])),
    ),
  );
  return tables.map((one) => {
    if (one.into !== null || !one.columns.some(({ column }) => added.has(column.id))) return one;
    const columns = one.columns.map((planned) =>
      added.has(planned.column.id) || isMark(planned)
        ? planned
        : { ...planned, column: { ...planned.column, required: false } },
    );
    return { ...one, columns, table: { ...one.table, columns: columns.map(({ column }) => column) } };
  });
}

/** The column by which a group was taken out refers to what it has become. */
function groupFound(
  drafts: readonly Draft[],
  { sheet, rows }: Pick<Draft, 'sheet' | 'rows'>,
  headings: readonly string[],
): PlannedColumn['finds'] {
  if (rows.t === 'distinct') return null;
  const group = drafts.find(
    (one) => one.sheet === sheet && one.rows.t === 'distinct' && one.columns[0]?.headings[0] === headings[0],
  );
  return group === undefined
    ? null
    : {
        table: group.table.id,
        column: group.columns[0]?.column.id ?? '',
        label: group.table.label,
        adds: false,
      };
}

function relationFound(
  drafts: readonly Draft[],
  relation: DetectedRelation,
  { decisions, there }: Making,
): PlannedColumn['finds'] {
  const { to, table } = relation;
  const adds = isAdding(relation, decisions, there);
  if (table !== null) return { table: table.id, column: table.column, label: to.sheet, adds };
  const target = drafts.find(
    ({ sheet, rows, into }) => sheet === to.sheet && rows.t === 'each' && into === null,
  );
  const column = target?.columns.find(({ headings }) => headings[0] === to.column);
  return target === undefined || column === undefined
    ? null
    : { table: target.table.id, column: column.column.id, label: target.table.label, adds };
}

/**
 * Tables after those they refer to. Tables that refer to one another in a circle keep their order; several
 * sheets may come into one that is there.
 */
function inOrder(tables: readonly PlannedTable[]): PlannedTable[] {
  const ordered = new Set<PlannedTable>();
  const place = (one: PlannedTable, open: readonly PlannedTable[]): void => {
    if (ordered.has(one) || open.includes(one)) return;
    const needed = new Set([one.table.parent, ...one.table.columns.map(({ target }) => target)]);
    for (const other of tables)
      if (other.table.id !== one.table.id && needed.has(other.table.id)) place(other, [...open, one]);
    ordered.add(one);
  };
  for (const one of tables) place(one, []);
  return [...ordered];
}
