import { keyFor } from '../form/key';
import { uuidV7 } from '../kernel/ids';
import { plural, prefixFor, singular } from '../table/label';
import { plainColumn, plainTable, type Column, type ColumnKind, type Table } from '../table/model';
import { hashOf } from './hash';
import { columnPath, type ColumnDecision, type Decisions } from './decisions';
import type {
  DetectedColumn,
  DetectedRelation,
  DetectedSheet,
  Detection,
  NumberedColumns,
  Reading,
  RepeatedGroup,
} from './detection';
import { MARK_PAIR } from './formats/words';
import { headingLabel, labelAndUnit, sheetLabel, WHAT_IS_WRONG } from './heading';
import { NUMBER, type Into } from './into-table';
import { isAdding, relationId, relationsOf } from './references';
import { groupId, isAccepted, numberedId, togetherId } from './proposals';

/** What an accepted import makes, as data: the tables, and for each where its rows and cells come from. Tables referred to come first. */
export interface ImportPlan {
  readonly tables: readonly PlannedTable[];
  /** Before them all: records that tables there are get for what new ones name and is not found in them. */
  readonly named: readonly PlannedTable[];
}

export interface PlannedTable {
  readonly table: Table;
  readonly sheet: string;
  readonly rows: RowSource;
  readonly columns: readonly PlannedColumn[];
  /** How they come into a table there is; null for a new one. */
  readonly into: Into | null;
}

export type RowSource =
  | { readonly t: 'each' }
  /** One for every different value of the column that stands at `by`; `unless` it is known already as a name under that column. */
  | { readonly t: 'distinct'; readonly by: number; readonly unless?: string }
  /** As many as there are numbered columns for each row of the sheet; those with nothing in them are left out. */
  | { readonly t: 'numbered'; readonly times: number };

export interface PlannedColumn {
  readonly column: Column;
  /** Where its cells stand in the sheet; of numbered columns one place for each time. */
  readonly at: readonly number[];
  readonly reading: Reading;
  /** For a reference: the table and column its values are looked up in, and whether those that are not there become records of it. */
  readonly finds: {
    readonly table: string;
    readonly column: string;
    readonly label: string;
    readonly adds: boolean;
  } | null;
}

interface Making {
  readonly relations: readonly DetectedRelation[];
  readonly importId: string;
  readonly detection: Detection;
  readonly decisions: Decisions;
  readonly taken: Set<string>;
  readonly prefixes: Set<string>;
  readonly there: readonly Table[];
}

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
function namedThere(tables: readonly PlannedTable[], { detection, there }: Making): PlannedTable[] {
  const adding = tables
    .filter(({ into }) => into === null)
    .flatMap(({ sheet, columns }) =>
      columns.flatMap(({ finds, at }) => (finds?.adds === true ? [{ sheet, finds, at }] : [])),
    );
  return adding.flatMap(({ sheet, finds, at }) => {
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
          reading: readingAt(detection, sheet, place),
          finds: null,
        },
      ],
    }));
  });
}

const readingAt = ({ sheets }: Detection, sheet: string, place: number): Reading =>
  sheets.find(({ name }) => name === sheet)?.columns.find(({ at }) => at === place)?.reading ?? {};

/** Before references are known: each column with the heading it stands under. */
type Draft = Omit<PlannedTable, 'columns'> & {
  readonly columns: readonly (PlannedColumn & { readonly headings: readonly string[] })[];
};

function tablesOf(sheet: DetectedSheet, making: Making): Draft[] {
  const into = making.decisions.sheets[sheet.name]?.into;
  const target = making.there.find(({ id }) => id === into?.table);
  if (into !== undefined && target !== undefined) return [draftInto(sheet, target, into, making)];
  const groups = sheet.repeatedGroups.filter(
    (group) =>
      !isDeclined(making, groupId(sheet.name, group)) && decidedOf(making, sheet, group.by).leaveOut !== true,
  );
  const numbered = sheet.numberedColumns.filter((one) => !isDeclined(making, numberedId(sheet.name, one)));
  const moved = new Set([
    ...groups.flatMap(({ columns }) => columns),
    ...numbered.flatMap(({ stems }) => stems.flatMap(({ columns }) => columns)),
    ...alongOthers(sheet, making),
  ]);
  const own = ownTable(
    sheet,
    sheet.columns.filter(({ name }) => !moved.has(name)),
    making,
  );
  return [
    ...groups.map((group) => groupTable(sheet, group, making)),
    own,
    ...numbered.map((one) => numberedTable(sheet, one, own.table, making)),
  ];
}

/** The columns are those there are; blanks are judged when it is known which rows are new. */
function draftInto(sheet: DetectedSheet, table: Table, into: Into, making: Making): Draft {
  const columns = sheet.columns.flatMap((found) => {
    const id = into.columns[found.name];
    const column = id === NUMBER ? numberColumn : table.columns.find((one) => one.id === id);
    const decided = decidedOf(making, sheet, found.name);
    if (column === undefined || decided.leaveOut === true) return [];
    const reading = {
      ...found.reading,
      ...(decided.dateOrder && { dateOrder: decided.dateOrder }),
      ...(decided.decimalSign && { decimalSign: decided.decimalSign }),
    };
    const finds =
      column.target === null
        ? null
        : {
            table: column.target,
            column: namesOf(column.target),
            label: making.there.find((one) => one.id === column.target)?.label ?? '',
            adds: false,
          };
    return [
      { column: { ...column, required: false }, at: [found.at], reading, finds, headings: [found.name] },
    ];
  });
  return { sheet: sheet.name, rows: { t: 'each' }, columns, table, into };
}

const numberColumn: Column = { ...plainColumn, id: NUMBER, key: 'number', label: 'Number' };
/** Where the names of a table's records are found, whatever column they come from. */
export const namesOf = (table: string): string => `names/${table}`;

const decidedOf = ({ decisions }: Making, { name }: DetectedSheet, column: string): ColumnDecision =>
  decisions.columns[columnPath(name, column)] ?? {};
const isDeclined = ({ decisions }: Making, id: string): boolean => decisions.declined.includes(id);

function alongOthers(sheet: DetectedSheet, { relations, decisions }: Making): string[] {
  return relations
    .filter(({ from, alongWith }) => from.sheet === sheet.name && alongWith !== null)
    .filter((one) => !decisions.declined.includes(relationId(one)))
    .map(({ from }) => from.column);
}

function ownTable(sheet: DetectedSheet, columns: readonly DetectedColumn[], making: Making): Draft {
  const label = making.decisions.sheets[sheet.name]?.label ?? sheetLabel(sheet.name);
  const made = draftColumns(sheet, columns, making);
  const [key] = sheet.keys.filter((names) => names.length === 1);
  const title = titleOf(made, key?.[0]);
  return {
    sheet: sheet.name,
    rows: { t: 'each' },
    into: null,
    columns: made,
    table: {
      ...makeTable(
        `table/${sheet.name}`,
        label,
        null,
        made.map(({ column }) => column),
        title,
        making,
      ),
      together: togetherOf(sheet, made, making),
    },
  };
}

/** The sets that were accepted, as far as all of their columns are in this table. */
function togetherOf(sheet: DetectedSheet, made: Draft['columns'], { decisions }: Making): string[][] {
  const accepted = sheet.keys.filter(
    (columns) =>
      columns.length > 1 && isAccepted(decisions, { t: 'together', id: togetherId(sheet.name, columns) }),
  );
  const sets = accepted.map((names) =>
    names.flatMap((name) => made.find(({ headings }) => headings[0] === name)?.column.id ?? []),
  );
  return sets.filter((set, i) => set.length === accepted[i]?.length);
}

/** A supplier's own table calls the supplier's column its name; who is repeated is a person or goes by the plural of the heading. */
function groupTable(sheet: DetectedSheet, group: RepeatedGroup, making: Making): Draft {
  const by = sheet.columns.find(({ name }) => name === group.by);
  const columns = [group.by, ...group.columns].flatMap(
    (name) => sheet.columns.find((one) => one.name === name) ?? [],
  );
  const made = draftColumns(sheet, columns, making, `group/${group.by}`).map((one) => ({
    ...one,
    column: inGroup(one.column, one.headings[0] === group.by, group.records),
  }));
  const label = by?.personal === 'name' ? 'People' : plural(headingLabel(group.by));
  return {
    sheet: sheet.name,
    rows: { t: 'distinct', by: by?.at ?? 0 },
    into: null,
    columns: made,
    table: makeTable(
      `group/${sheet.name}/${group.by}`,
      label,
      null,
      made.map(({ column }) => column),
      made.filter(({ headings }) => headings[0] === group.by).map(({ column }) => column.id),
      making,
    ),
  };
}

/** Among few records hardly anything comes again, so what was a choice over many rows is a text here. */
function inGroup(column: Column, names: boolean, records: number): Column {
  const kind =
    column.kind === 'choice' && (names || column.choices.length * 3 > records) ? 'text' : column.kind;
  const own = names ? { key: 'name', label: 'Name', required: true, unique: true } : { unique: false };
  return { ...column, kind, choices: kind === 'choice' ? column.choices : [], ...own };
}

function numberedTable(
  sheet: DetectedSheet,
  numbered: NumberedColumns,
  parent: Table,
  making: Making,
): Draft {
  const columns = numbered.stems
    .map(({ stem, columns: names }, i) => {
      const found = names.flatMap((name) => sheet.columns.find((one) => one.name === name) ?? []);
      const first = together(found);
      const [made] =
        first === null
          ? []
          : draftColumns(
              sheet,
              [{ ...first, name: stem, required: false, unique: false }],
              making,
              `numbered/${i}`,
              names[0],
            );
      return made === undefined ? [] : [{ ...made, at: found.map(({ at }) => at), headings: names }];
    })
    .flat();
  const label = `${singular(parent.label)} ${numbered.stems.length === 1 ? plural(numbered.stems[0]?.stem ?? '').toLowerCase() : 'lines'}`;
  return {
    sheet: sheet.name,
    rows: { t: 'numbered', times: numbered.times },
    into: null,
    columns,
    table: makeTable(
      `numbered/${sheet.name}/${numbered.stems[0]?.stem ?? ''}`,
      label,
      parent.id,
      columns.map(({ column }) => column),
      [],
      making,
    ),
  };
}

const NUMERIC: ReadonlySet<string> = new Set(['whole', 'decimal', 'money']);

/** Columns side by side as one: of numbers the finest, of choices all there are, of different kinds a text. */
function together(columns: readonly DetectedColumn[]): DetectedColumn | null {
  const [first] = [...columns].sort((a, b) => b.filled - a.filled);
  if (first === undefined) return null;
  if (columns.every(({ kind }) => kind === first.kind && kind !== 'decimal' && kind !== 'money')) {
    const choices = new Map(
      columns.flatMap((one) => one.choices ?? []).map((choice) => [choice.value, choice]),
    );
    return { ...first, choices: first.choices === null ? null : [...choices.values()] };
  }
  const finest =
    [...columns].sort((a, b) => (b.reading.decimals ?? 0) - (a.reading.decimals ?? 0))[0] ?? first;
  const kind = columns.find((one) => one.kind === 'money')?.kind ?? 'decimal';
  if (columns.every((one) => NUMERIC.has(one.kind)))
    return { ...first, kind, reading: { ...first.reading, ...finest.reading } };
  return { ...first, kind: 'text', choices: null, reading: {} };
}

/** Decisions about a column go by its heading, about numbered ones by the heading of the first, `decidedBy`. */
function draftColumns(
  sheet: DetectedSheet,
  columns: readonly DetectedColumn[],
  making: Making,
  place = 'own',
  decidedBy?: string,
): Draft['columns'] {
  const keys = new Set<string>();
  return columns
    .filter(
      ({ name }) => name !== WHAT_IS_WRONG && decidedOf(making, sheet, decidedBy ?? name).leaveOut !== true,
    )
    .map((found) => {
      const decided = decidedOf(making, sheet, decidedBy ?? found.name);
      const [label, unit] = labelAndUnit(decided.label ?? headingLabel(found.name));
      // With the separator before decimals, what looked like thousands has three of them.
      const finer =
        found.ask?.t === 'decimal-sign' &&
        decided.decimalSign !== undefined &&
        found.ask.examples.some((text) => text.includes(decided.decimalSign ?? ''));
      const wanted = decided.kind === 'choice' && found.choices === null ? 'text' : decided.kind;
      const kind: ColumnKind = wanted ?? (finer && found.kind === 'whole' ? 'decimal' : found.kind);
      const key = keyFor(label, keys, 'column');
      keys.add(key);
      const numeric = kind === 'decimal' || kind === 'money';
      const mark = kind === 'yes-no' && found.reading.yesNo === MARK_PAIR;
      const column: Column = {
        ...plainColumn,
        id: columnId(making.importId, sheet.name, place, found.name),
        key,
        label,
        kind,
        required: (decided.required !== false && mayRequire(found)) || mark,
        unique: decided.unique !== false && found.unique && kind === found.kind,
        decimals: numeric
          ? finer
            ? 3
            : decided.kind === undefined
              ? (found.reading.decimals ?? 2)
              : Math.max(2, found.reading.decimals ?? 2)
          : kind === 'whole'
            ? 0
            : null,
        unit:
          kind === 'money'
            ? (found.reading.currency ?? '')
            : kind === 'whole' || numeric
              ? (found.reading.unit ?? unit)
              : '',
        choices: kind === 'choice' ? codesFor(found) : [],
        personal: decided.personal === undefined ? found.personal : decided.personal,
      };
      const reading = {
        ...found.reading,
        ...(decided.dateOrder && { dateOrder: decided.dateOrder }),
        ...(decided.decimalSign && { decimalSign: decided.decimalSign }),
      };
      return { column, at: [found.at], reading, finds: null, headings: [found.name] };
    });
}

/** Whether every cell is filled with something that fits, so that it may be asked of all to come. */
export const mayRequire = ({ required, misfits }: Pick<DetectedColumn, 'required' | 'misfits'>): boolean =>
  required && misfits === 0;

function codesFor({ choices }: DetectedColumn): Column['choices'] {
  const taken = new Set<string>();
  return (choices ?? []).map(({ value }) => {
    const code = keyFor(value, taken, 'choice');
    taken.add(code);
    return { code, label: value };
  });
}

/** What names a record: its key, and its name where that is another column. */
function titleOf(columns: Draft['columns'], key: string | undefined): string[] {
  const of = (name: string) => columns.find(({ headings }) => headings[0] === name)?.column.id;
  const named = columns.find(
    ({ column }) => column.kind === 'text' && /^(name|title|label|bezeichnung|nom)$/i.test(column.label),
  )?.column.id;
  return [...new Set([key === undefined ? undefined : of(key), named].filter((id) => id !== undefined))];
}

function makeTable(
  seed: string,
  label: string,
  parent: string | null,
  columns: readonly Column[],
  title: readonly string[],
  making: Making,
): Table {
  const key = keyFor(label, making.taken, 'table');
  const prefix = prefixFor(label, making.prefixes);
  making.taken.add(key);
  making.prefixes.add(prefix);
  return { ...plainTable, id: tableIdFor(making.importId, seed), key, label, prefix, parent, columns, title };
}

const columnId = (importId: string, ...place: string[]): string =>
  `c${hashOf([importId, ...place].join('\n')).toString(36)}`;

/** A UUID of the import's own time, so that tables sort by when they came. */
function tableIdFor(importId: string, seed: string): string {
  const random = Uint8Array.from(
    { length: 10 },
    (_, i) => Math.floor(hashOf(`${importId}\n${seed}\n${Math.floor(i / 5)}`) / 256 ** (i % 5)) % 256,
  );
  return uuidV7(Number.parseInt(importId.replaceAll('-', '').slice(0, 12), 16), random);
}

/** Values that are found in another sheet or table become references to its records. */
function withReferences(drafts: readonly Draft[], making: Making): PlannedTable[] {
  const accepted = making.relations.filter(
    (one) => one.alongWith === null && !isDeclined(making, relationId(one)),
  );
  return drafts.map(({ columns, ...draft }) => {
    // What refers to what is settled in a table there is.
    if (draft.into !== null) return { ...draft, columns: columns.map(({ headings, ...one }) => one) };
    const planned = columns.map(({ headings, ...one }): PlannedColumn => {
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
            column: {
              ...one.column,
              kind: 'reference',
              choices: [],
              decimals: null,
              unit: '',
              unique: false,
              target: finds.table,
              required: one.column.required && ((relation?.missed ?? 0) === 0 || finds.adds),
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

/** Tables after those they refer to. Tables that refer to one another in a circle keep their order; several sheets may come into one that is there. */
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

/**
 * Tables that an earlier one refers to, or they themselves, or that get records for what is not found in them: what their rows are named by must be
 * known before the first of all is made.
 */
export function namedBeforeMade({ tables }: ImportPlan): PlannedTable[] {
  return tables.filter(
    ({ table, into, rows }, at) =>
      into === null &&
      rows.t === 'each' &&
      tables.some(({ columns }, other) =>
        columns.some(({ finds }) => finds?.table === table.id && (other <= at || finds.adds)),
      ),
  );
}

/** The tables there are that columns of new tables name. */
export function namedTables({ tables }: ImportPlan): string[] {
  const own = new Set(tables.map(({ table }) => table.id));
  return [
    ...new Set(
      tables
        .filter(({ into }) => into === null)
        .flatMap(({ columns }) =>
          columns.flatMap(({ finds }) => (finds === null || own.has(finds.table) ? [] : [finds.table])),
        ),
    ),
  ];
}

/** Where the values stand that become records of the table of a column when they are not found in it. */
export function namesFor({ tables }: ImportPlan, column: string): { sheet: string; at: readonly number[] }[] {
  return tables.flatMap(({ sheet, columns }) =>
    columns
      .filter(({ finds }) => finds?.adds === true && finds.column === column)
      .map(({ at }) => ({ sheet, at })),
  );
}

/** What was asked and not answered, of the columns that are taken: each with its path. */
export function openAsks(
  detection: Detection,
  decisions: Decisions,
): { path: string; ask: NonNullable<DetectedColumn['ask']> }[] {
  return detection.sheets
    .filter(({ name }) => decisions.sheets[name]?.leaveOut !== true)
    .flatMap((sheet) =>
      sheet.columns
        .filter(({ name }) => isTaken(decisions.sheets[sheet.name]?.into, name))
        .flatMap(({ name, ask }) => {
          const path = columnPath(sheet.name, name);
          const decided = decisions.columns[path] ?? {};
          const answered =
            ask === null ||
            decided.leaveOut === true ||
            (ask.t === 'date-order' ? decided.dateOrder : decided.decimalSign) !== undefined ||
            (decided.kind !== undefined &&
              decided.kind !== 'date' &&
              decided.kind !== 'date-time' &&
              ask.t === 'date-order') ||
            decided.kind === 'text';
          return answered ? [] : [{ path, ask }];
        }),
    );
}

const isTaken = (into: Into | undefined, heading: string): boolean =>
  into === undefined || into.columns[heading] !== undefined;
