import { keyFor } from '../form/key';
import { uuidFrom } from '../kernel/ids';
import { plural, prefixFor, singular } from '../table/label';
import { keptColumns, plainColumn, plainTable, type Column, type Table } from '../table/model';
import {
  decidedOf,
  draftColumns,
  isDeclined,
  readingIn,
  readingOf,
  together,
  type Draft,
  type Making,
} from './draft-columns';
import type { DetectedColumn, DetectedSheet, NumberedColumns, RepeatedGroup } from './detection';
import { hashOf } from './hash';
import { headingLabel, sheetLabel } from './heading';
import { namesOf } from './import-plan';
import { NUMBER, type Into } from './into-table';
import { holdsOf, titleOf } from './naming';
import { groupId, isAccepted, numberedId, togetherId } from './proposals';
import { relationId } from './references';

export function tablesOf(sheet: DetectedSheet, making: Making): Draft[] {
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
    const column = id === NUMBER ? numberColumn : keptColumns(table).find((one) => one.id === id);
    const decided = decidedOf(making, sheet, found.name);
    if (column === undefined || decided.leaveOut === true) return [];
    const reading = readingOf(found, decided, column.kind);
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
      {
        column: { ...column, required: false },
        at: [found.at],
        reading,
        finds,
        headings: [found.name],
        found,
      },
    ];
  });
  return { sheet: sheet.name, rows: { t: 'each' }, columns, table, into };
}

const numberColumn: Column = { ...plainColumn, id: NUMBER, key: 'number', label: 'Number' };

function alongOthers(sheet: DetectedSheet, { relations, decisions }: Making): string[] {
  return relations
    .filter(({ from, alongWith }) => from.sheet === sheet.name && alongWith !== null)
    .filter((one) => !decisions.declined.includes(relationId(one)))
    .map(({ from }) => from.column);
}

function ownTable(sheet: DetectedSheet, columns: readonly DetectedColumn[], making: Making): Draft {
  const label = making.decisions.sheets[sheet.name]?.label ?? sheetLabel(sheet.name);
  const made = draftColumns(sheet, columns, making);
  const title = titleOf(label, made);
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

/** What is repeated together becomes a table of its own, called by what it holds. */
function groupTable(sheet: DetectedSheet, group: RepeatedGroup, making: Making): Draft {
  const by = sheet.columns.find(({ name }) => name === group.by);
  const columns = [group.by, ...group.columns].flatMap(
    (name) => sheet.columns.find((one) => one.name === name) ?? [],
  );
  const made = draftColumns(sheet, columns, making, `group/${group.by}`).map((one) => {
    const names = one.headings[0] === group.by;
    const column = inGroup(one.column, names, group.records);
    return names ? { ...one, column, reading: readingIn(sheet, one, making) } : { ...one, column };
  });
  const label = by === undefined ? plural(headingLabel(group.by)) : holdsOf(by, group.columns);
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
      titleOf(
        label,
        made.map(({ column, found }) => ({ column, found: { ...found, unique: column.unique } })),
      ),
      making,
    ),
  };
}

/** Among few records hardly anything comes again, so what was a choice over many rows is a text here. */
function inGroup(column: Column, names: boolean, records: number): Column {
  const kind =
    column.kind === 'choice' && (names || column.choices.length * 3 > records) ? 'text' : column.kind;
  const own = names ? { required: true, unique: true } : { unique: false };
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

/** A UUID of the import's own time, so that tables sort by when they came. */
function tableIdFor(importId: string, seed: string): string {
  const random = Uint8Array.from(
    { length: 16 },
    (_, i) => Math.floor(hashOf(`${importId}\n${seed}\n${Math.floor(i / 5)}`) / 256 ** (i % 5)) % 256,
  );
  return uuidFrom(Number.parseInt(importId.replaceAll('-', '').slice(0, 12), 16), random);
}
