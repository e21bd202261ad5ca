import { keyFor } from '../form/key';
import { plainColumn, type Column, type ColumnKind, type Table } from '../table/model';
import { fold } from './cell';
import { columnPath, type ColumnDecision, type Decisions } from './decisions';
import type { DetectedColumn, DetectedRelation, DetectedSheet, Detection, Reading } from './detection';
import { emptyReading, wordsAreEmpty } from './empty-words';
import { MARK_PAIR } from './formats/words';
import { hashOf } from './hash';
import { headingLabel, labelAndUnit, WHAT_IS_WRONG } from './heading';
import type { PlannedColumn, PlannedTable } from './import-plan';
import { totalsId } from './proposals';

export interface Making {
  readonly relations: readonly DetectedRelation[];
  readonly importId: string;
  readonly detection: Detection;
  readonly decisions: Decisions;
  readonly taken: Set<string>;
  readonly prefixes: Set<string>;
  readonly there: readonly Table[];
}

/** Before references are known: each column with the heading it stands under. */
export type Draft = Omit<PlannedTable, 'columns'> & {
  readonly columns: readonly (PlannedColumn & {
    readonly headings: readonly string[];
    readonly found: DetectedColumn;
  })[];
};

export const decidedOf = ({ decisions }: Making, { name }: DetectedSheet, column: string): ColumnDecision =>
  decisions.columns[columnPath(name, column)] ?? {};

export const isDeclined = ({ decisions }: Making, id: string): boolean => decisions.declined.includes(id);

/** Decisions about a column go by its heading, about numbered ones by the heading of the first, `decidedBy`. */
export function draftColumns(
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
      const reading = readingOf(found, decided, kind);
      const mark = kind === 'yes-no' && found.reading.yesNo === MARK_PAIR;
      const column: Column = {
        ...plainColumn,
        id: columnId(making.importId, sheet.name, place, found.name),
        key,
        label,
        kind,
        required: (decided.required !== false && isFilled(sheet, found, kind, making, decided)) || mark,
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
        choices: kind === 'choice' ? codesFor(found, reading) : [],
        personal: decided.personal === undefined ? found.personal : decided.personal,
      };
      return { column, at: [found.at], reading, finds: null, headings: [found.name], found };
    });
}

const NUMERIC: ReadonlySet<string> = new Set(['whole', 'decimal', 'money']);

/** Columns side by side as one: of numbers the finest, of choices all there are, of different kinds a text. */
export function together(columns: readonly DetectedColumn[]): DetectedColumn | null {
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

/** Whether every cell is filled with something that fits, so that it may be asked of all to come. */
export const mayRequire = ({ required, misfits }: Pick<DetectedColumn, 'required' | 'misfits'>): boolean =>
  required && misfits === 0;

export function readingOf(found: DetectedColumn, decided: ColumnDecision, kind: string): Reading {
  return {
    ...found.reading,
    ...(decided.dateOrder && { dateOrder: decided.dateOrder }),
    ...(decided.decimalSign && { decimalSign: decided.decimalSign }),
    ...emptyReading(found, decided, kind),
  };
}

/** The same of a column that names records. */
export const readingIn = (
  { name }: Pick<DetectedSheet, 'name'>,
  { found, reading }: Draft['columns'][number],
  { decisions }: Pick<Making, 'decisions'>,
): Reading => ({
  ...reading,
  ...emptyReading(found, decisions.columns[columnPath(name, found.name)] ?? {}, 'reference'),
});

/** Whether every row has something that fits; a row of totals that is kept counts as well. */
const isFilled = (
  { name, totals }: DetectedSheet,
  found: DetectedColumn,
  kind: string,
  { decisions }: Making,
  decided: ColumnDecision,
): boolean =>
  mayRequire(found) &&
  !wordsAreEmpty(found, decided, kind) &&
  !(totals?.blank.includes(found.name) === true && decisions.declined.includes(totalsId(name)));

function codesFor({ choices }: DetectedColumn, { empty = [] }: Reading): Column['choices'] {
  const taken = new Set<string>();
  return (choices ?? [])
    .filter(({ value }) => !empty.includes(fold(value)))
    .map(({ value }) => {
      const code = keyFor(value, taken, 'choice');
      taken.add(code);
      return { code, label: value };
    });
}

const columnId = (importId: string, ...place: string[]): string =>
  `c${hashOf([importId, ...place].join('\n')).toString(36)}`;
