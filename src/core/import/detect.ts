import { fold } from './cell';
import type { ColumnProfile } from './column-profile';
import { kindOf, type KindFound } from './column-kind';
import type {
  Ask,
  DetectedColumn,
  DetectedRelation,
  DetectedSheet,
  Detection,
  EmptyWords,
  RepeatedGroup,
} from './detection';
import { keysOf, namesRows, type KeyColumn } from './keys';
import { numberedColumns } from './numbered';
import { personalIn } from './personal';
import { isCandidate, isHinted, isTarget, relationsAmong, type Target } from './relations';
import { repeatedGroups } from './repeated';
import type { SheetProfile } from './sheet-profile';

/** Everything that sheets show of themselves and of one another, and of the keys of tables there are already. */
export function detect(sheets: readonly SheetProfile[], tables: readonly Target[] = []): Detection {
  const found = sheets.map((sheet) => ({ sheet, ...columnsOf(sheet) }));
  const targets = found.flatMap(({ sheet, keyColumns }, order) =>
    keyColumns.filter(isTarget).map((column) => targetOf(sheet, order, column)),
  );
  const candidates = found.flatMap(({ sheet, keyColumns }, order) =>
    keyColumns.filter(isCandidate).map((column) => ({ sheet, order, column })),
  );
  const relations = relationsAmong(candidates, [...targets, ...tables]);
  const all = found.map(({ sheet, columns, keyColumns }) => sheetOf(sheet, columns, keyColumns, relations));
  return {
    sheets: all.map(({ sheet }) => sheet),
    relations: relations.map((one) => alongOther(one, all, relations)),
  };
}

/** A sheet with what was found, and the groups that come from other sheets, which are no proposals. */
interface SheetFound {
  readonly sheet: DetectedSheet;
  readonly copies: readonly RepeatedGroup[];
}

/** Of several columns that name one and the same record, the one whose heading says so names it, or the leftmost. */
function alongOther(
  relation: DetectedRelation,
  sheets: readonly SheetFound[],
  relations: readonly DetectedRelation[],
): DetectedRelation {
  const { sheet, column } = relation.from;
  const together = relations.filter(({ from, to }) => from.sheet === sheet && to.sheet === relation.to.sheet);
  const group = sheets
    .find((one) => one.sheet.name === sheet)
    ?.copies.find((one) => [one.by, ...one.columns].includes(column));
  const same = together.filter(
    ({ from }) => group !== undefined && [group.by, ...group.columns].includes(from.column),
  );
  const main =
    same.find(({ from, to }) => isHinted(from.column, { sheet: to.sheet, column: '' }, false)) ?? same[0];
  return main === undefined || main.from.column === column
    ? relation
    : { ...relation, alongWith: main.from.column };
}

function targetOf(sheet: SheetProfile, order: number, column: KeyColumn): Target {
  return {
    ref: { sheet: sheet.name, column: column.name },
    kind: column.kind,
    sheet,
    order,
    table: null,
    at: column.at,
    folded: sheet.distinct(column.at),
    exact: () => sheet.exact(column.at),
  };
}

function columnsOf(sheet: SheetProfile): { columns: DetectedColumn[]; keyColumns: KeyColumn[] } {
  const kinds = sheet.columns.map((column, at) => kindOf(column, sheet.names[at] ?? ''));
  const filled = sheet.columns.flatMap((column, at) =>
    column.filled === 0 ? [] : [{ column, at, name: sheet.names[at] ?? '', kind: kinds[at] as KindFound }],
  );
  const columns = filled.map((one) => columnOf(sheet, { ...one, kind: suggested(one.kind, kinds) }));
  return { columns, keyColumns: columns.map((one) => keyColumnOf(sheet, one)) };
}

/** A record is named by no word that stands for nothing. */
function keyColumnOf(sheet: SheetProfile, { at, name, kind }: DetectedColumn): KeyColumn {
  const column = sheet.columns[at];
  return {
    at,
    name,
    kind,
    filled: (column?.filled ?? 0) - (column?.emptyWordCells ?? 0),
    distinct: sheet.distinct(at).length,
    longest: column?.longest ?? 0,
  };
}

interface Found {
  readonly column: ColumnProfile;
  readonly at: number;
  readonly name: string;
  readonly kind: KindFound;
}

function columnOf(sheet: SheetProfile, { column, at, name, kind }: Found): DetectedColumn {
  const { filled } = kind.wordsAreEmpty ? column.withoutEmptyWords() : column;
  const words = new Set([...column.emptyWords.keys()].map(fold));
  const distinct = sheet.distinct(at).length + (kind.wordsAreEmpty ? 0 : words.size);
  return {
    name,
    at,
    kind: kind.kind,
    required: filled === sheet.rows,
    unique:
      sheet.rows > 1 &&
      distinct === filled &&
      namesRows({ kind: kind.kind, name, at, longest: column.longest }),
    filled,
    blank: sheet.rows - filled,
    distinct,
    choices: kind.choices,
    personal: personalIn(name, column, kind.kind, sheet.names),
    reading: kind.reading,
    ask: kind.ask,
    misfits: kind.misfits,
    misfitCells: kind.misfitCells,
    examples: [...column.classes.values()]
      .flatMap(({ cells }) => cells)
      .sort((a, b) => a.row - b.row)
      .map(({ text }) => text)
      .filter((text, i, all) => all.indexOf(text) === i)
      .slice(0, 3),
    keptAsText: kind.keptAsText,
    ...(column.emptyWords.size > 0 && { emptyWords: emptyWordsOf(column, kind) }),
  };
}

const emptyWordsOf = ({ emptyWords }: ColumnProfile, { wordsAreEmpty }: KindFound): EmptyWords => ({
  words: [...emptyWords].map(([text, count]) => ({ text, count })).sort((a, b) => b.count - a.count),
  taken: wordsAreEmpty,
});

/** What the other columns of the sheet tell about days and decimals that could be read two ways. */
function suggested(found: KindFound, others: readonly KindFound[]): KindFound {
  const { ask } = found;
  if (ask === null || ask.suggested !== null) return found;
  const told = others
    .filter((one) => one.ask === null && one.kind !== 'text')
    .map(({ reading }) =>
      ask.t === 'date-order'
        ? reading.dateOrder
        : (reading.decimals ?? 0) > 0
          ? reading.decimalSign
          : undefined,
    );
  const known = [...new Set(told.filter((one) => one !== undefined && one !== 'ymd'))];
  return {
    ...found,
    ask: { ...ask, suggested: known.length === 1 ? ((known[0] ?? null) as Ask['suggested']) : null },
  };
}

function sheetOf(
  sheet: SheetProfile,
  columns: readonly DetectedColumn[],
  keyColumns: readonly KeyColumn[],
  relations: readonly DetectedRelation[],
): SheetFound {
  const rowsFilled = (names: readonly string[]): number => {
    const lists = names.map((name) => sheet.codes(sheet.names.indexOf(name)));
    return (lists[0] ?? new Int32Array(0)).reduce(
      (sum, _, row) => sum + (lists.some((list) => (list[row] ?? -1) >= 0) ? 1 : 0),
      0,
    );
  };
  // Names that stand in for missing headings are numbered, and say nothing.
  const numbered = numberedColumns(
    columns.map(({ name }) => name).filter((name) => !/^Column \d+$/.test(name)),
    rowsFilled,
  );
  const inNumbered = new Set(numbered.flatMap(({ stems }) => stems.flatMap((one) => one.columns)));
  const related = new Set(
    relations.filter(({ from }) => from.sheet === sheet.name).map(({ from }) => from.column),
  );
  const judged = keyColumns.filter(({ name }) => !inNumbered.has(name));
  return {
    // What is known of a record that is elsewhere belongs there, so a column that names one makes no group.
    sheet: {
      name: sheet.name,
      headerRow: sheet.headerRow,
      top: sheet.top,
      rows: sheet.rows,
      totals: sheet.totals,
      columns,
      keys: keysOf(sheet, keyColumns),
      repeatedGroups: repeatedGroups(sheet, judged, (column) => !related.has(column.name)),
      numberedColumns: numbered,
    },
    copies:
      related.size < 2
        ? []
        : repeatedGroups(
            sheet,
            judged.filter(({ name }) => related.has(name)),
            () => true,
          ),
  };
}
