import type { CellClass, ColumnFigures } from './column-figures';
import { fold } from './cell';
import { WORDY } from './empty-words';
import type { Ask, CellAt, DetectedChoice, DetectedKind, Reading } from './detection';
import { dateShape, type DateOrder } from './formats/date';
import type { DecimalSign } from './formats/number';
import { DIGIT_PAIR, MARK_PAIR, readYesNo } from './formats/words';

/** The kind of a column with how its texts are read, and the cells that do not fit. */
export interface KindFound {
  readonly kind: DetectedKind;
  readonly reading: Reading;
  readonly ask: Ask | null;
  readonly misfits: number;
  readonly misfitCells: readonly CellAt[];
  readonly choices: readonly DetectedChoice[] | null;
  readonly keptAsText: 'leading-zeros' | 'long-digits' | 'mixed' | null;
  /** Whether words that may stand for nothing are taken so, for they would not fit. */
  readonly wordsAreEmpty: boolean;
}

/** A kind is proposed when nine of ten filled cells are of it; what does not fit is listed, to be fixed or to change the kind by. */
const ENOUGH = 0.9;

const TEXT: KindFound = {
  kind: 'text',
  reading: {},
  ask: null,
  misfits: 0,
  misfitCells: [],
  choices: null,
  keptAsText: null,
  wordsAreEmpty: false,
};

/**
 * `heading` helps only where the values alone would fit two kinds. Words such as `n/a` stand for nothing where they would not fit what else
 * there is; among texts and choices they may be meant.
 */
export function kindOf(column: ColumnFigures, heading: string): KindFound {
  const asWritten = kindAlone(column, heading);
  if (column.emptyWords.size === 0 || (asWritten.kind !== 'text' && asWritten.misfits === 0))
    return asWritten;
  const otherwise = kindAlone(column.withoutEmptyWords(), heading);
  const taken = !WORDY.has(otherwise.kind) || (otherwise.kind === 'yes-no' && asWritten.kind === 'yes-no');
  return taken ? { ...otherwise, wordsAreEmpty: true } : asWritten;
}

function kindAlone(column: ColumnFigures, heading: string): KindFound {
  if (column.filled === 0) return TEXT;
  return (
    yesNo(column, heading) ??
    contact(column, heading) ??
    date(column) ??
    moment(column) ??
    simple(column, 'time', ['time']) ??
    number(column, heading) ??
    choice(column, heading) ??
    TEXT
  );
}

function fitting(
  column: ColumnFigures,
  kind: DetectedKind,
  names: readonly CellClass[],
  more: Partial<KindFound> = {},
): KindFound | null {
  const fits = column.countOf(...names);
  if (fits < column.filled * ENOUGH) return null;
  return {
    ...TEXT,
    kind,
    misfits: column.filled - fits,
    misfitCells: column.cellsBut(new Set(names)),
    ...more,
  };
}

const simple = (column: ColumnFigures, kind: DetectedKind, names: readonly CellClass[]): KindFound | null =>
  fitting(column, kind, names);

/** Words that say a column of ones and noughts is a question. */
const ASKS = /\?$|^(is|has|have|was|are|ist|hat|est|es)\b/i;

function yesNo(column: ColumnFigures, heading: string): KindFound | null {
  const natives = column.countOf('native-yes-no');
  if (natives === column.filled) return { ...TEXT, kind: 'yes-no', reading: { yesNo: 1 } };
  const [best] = [...column.pairs]
    .filter(([pair]) => pair !== DIGIT_PAIR || ASKS.test(heading.trim()))
    .sort(([a, m], [b, n]) => n - m || a - b);
  if (best === undefined || best[1] < column.filled * ENOUGH || column.values === null) return null;
  // A lone initial may be anything: both sides of the pair must be there, or a whole word, or a mark.
  const words = new Set([...column.values.keys()].map(fold));
  if (best[0] !== MARK_PAIR && words.size < 2 && [...words].every((one) => one.length === 1)) return null;
  const misfits = [...column.values]
    .filter(([text]) => readYesNo(text, best[0]) === null)
    .flatMap(([text]) => cellOf(column, text));
  return {
    ...TEXT,
    kind: 'yes-no',
    reading: { yesNo: best[0] },
    misfits: column.filled - best[1],
    misfitCells: misfits,
  };
}

function contact(column: ColumnFigures, heading: string): KindFound | null {
  for (const kind of ['e-mail', 'web-address', 'phone'] as const) {
    const fits = column.contacts.get(kind) ?? 0;
    if (
      fits < column.filled * ENOUGH ||
      (kind === 'phone' && column.countOf('whole') > 0 && !PHONE_HEADING.test(heading))
    )
      continue;
    const misfitCells =
      fits === column.filled
        ? []
        : column
            .cellsBut(new Set(kind === 'phone' ? ['code', 'whole'] : []))
            .filter(({ text }) => !looksLike[kind](text));
    return { ...TEXT, kind, misfits: column.filled - fits, misfitCells };
  }
  return null;
}
export const PHONE_HEADING = /phone|tel\b|telefon|tel\.|mobile|mobil|handy|fax|téléphone/i;
const looksLike = {
  'e-mail': (text: string) => text.includes('@'),
  'web-address': (text: string) => /^(https?:|www\.)/i.test(text),
  phone: (text: string) => /^[\d\s()+./-]+$/.test(text),
};

const DAYS: readonly CellClass[] = ['ymd', 'named-day', 'dmy', 'mdy', 'either-order', 'same-order'];

/** The order is told by days above the twelfth; where there are none, or they disagree, somebody is asked. */
function date(column: ColumnFigures): KindFound | null {
  const [dmy, mdy, either] = [column.countOf('dmy'), column.countOf('mdy'), column.countOf('either-order')];
  const order: DateOrder = mdy > dmy ? 'mdy' : 'dmy';
  const found = fitting(
    column,
    'date',
    DAYS.filter((name) => name !== (order === 'mdy' ? 'dmy' : 'mdy')),
  );
  if (found === null) return null;
  const unsure = either > 0 && dmy > 0 === mdy > 0;
  return {
    ...found,
    reading: { dateOrder: dmy + mdy + either > 0 ? order : 'ymd' },
    ask: unsure
      ? { t: 'date-order', examples: examplesOf(column, 'either-order'), suggested: dmy > 0 ? order : null }
      : null,
  };
}

function moment(column: ColumnFigures): KindFound | null {
  const found = fitting(column, 'date-time', ['moment', ...DAYS]);
  if (found === null) return null;
  const shapes = column.classes.get('moment')?.cells.map(({ text }) => dateShape(text)) ?? [];
  const [dmy, mdy] = (['dmy', 'mdy'] as const).map((order) =>
    shapes.some(
      (shape) => shape !== null && shape.orders.length === 1 && shape.orders[0] === order && !shape.sure,
    ),
  );
  const either = shapes.some(
    (shape) => shape !== null && shape.orders.length === 2 && shape.parts[0] !== shape.parts[1],
  );
  const order: DateOrder = mdy === true && dmy !== true ? 'mdy' : 'dmy';
  const unsure = either && dmy === mdy;
  return {
    ...found,
    reading: { dateOrder: order },
    ask: unsure ? { t: 'date-order', examples: examplesOf(column, 'moment'), suggested: null } : null,
  };
}

const NUMBERS: readonly CellClass[] = ['whole', 'native-number', 'dot', 'comma', 'either-sign'];
/** Numbers by which nobody reckons. */
const CODE_HEADING = /post ?code|zip|plz|\bpin\b|barcode|\bean\b|isbn|iban/i;

function number(column: ColumnFigures, heading: string): KindFound | null {
  const codes = column.countOf('code');
  if (codes > 0 && column.countOf(...NUMBERS) + codes >= column.filled * ENOUGH) {
    const long = (column.classes.get('code')?.cells ?? []).every(({ text }) => !/^0/.test(text));
    return { ...TEXT, keptAsText: long ? 'long-digits' : 'leading-zeros' };
  }
  const [dot, comma, either] = [
    column.countOf('dot'),
    column.countOf('comma'),
    column.countOf('either-sign'),
  ];
  const decimalSign: DecimalSign = comma > dot ? ',' : '.';
  const other: CellClass = comma > dot ? 'dot' : 'comma';
  const found = fitting(
    column,
    'decimal',
    NUMBERS.filter((name) => name !== other),
  );
  if (found === null)
    return column.countOf(...NUMBERS) >= column.filled * ENOUGH ? { ...TEXT, keptAsText: 'mixed' } : null;
  if (PHONE_HEADING.test(heading) || CODE_HEADING.test(heading))
    return { ...TEXT, keptAsText: 'long-digits' };
  const ask: Ask | null =
    either > 0 && dot === 0 && comma === 0
      ? { t: 'decimal-sign', examples: examplesOf(column, 'either-sign'), suggested: null }
      : null;
  return sized(column, found, decimalSign, ask);
}

/** Whole or decimal, money or with a unit. Currencies and units must be the same throughout, or they are part of the text. */
function sized(
  column: ColumnFigures,
  found: KindFound,
  decimalSign: DecimalSign,
  ask: Ask | null,
): KindFound {
  const [currency] = [...column.currencies.keys()];
  const [unit = ''] = [...column.units.keys()].filter((one) => !column.currencies.has(one));
  if (column.currencies.size > 1 || [...column.units.keys()].length > 1)
    return { ...TEXT, keptAsText: 'mixed' };
  const groups =
    column.countOf('either-sign') > 0 &&
    (column.classes.get('either-sign')?.cells ?? []).some(({ text }) => text.includes(decimalSign));
  const decimals = Math.min(8, Math.max(column.fraction, groups ? 3 : 0));
  if (currency !== undefined)
    return {
      ...found,
      kind: 'money',
      ask,
      reading: { decimalSign, decimals: Math.max(2, decimals), currency },
    };
  return {
    ...found,
    kind: decimals === 0 ? 'whole' : 'decimal',
    ask,
    reading: { decimalSign, decimals, ...(unit === '' ? {} : { unit }) },
  };
}

/** Few different values, each of which comes again, none of them long. */
function choice(column: ColumnFigures, heading: string): KindFound | null {
  const choices = column.values === null || column.longest > 60 ? [] : spelled(column.values);
  const repeats = column.filled / Math.max(1, choices.length);
  if (
    choices.length < 2 ||
    choices.length > 25 ||
    repeats < (choices.length <= 8 ? 3 : 5) ||
    FREE.test(heading)
  )
    return null;
  return { ...TEXT, kind: 'choice', choices };
}
const FREE = /remark|note|comment|bemerk|notiz|description/i;

/** The commonest spelling stands for all that differ only in case, spaces or accents. */
function spelled(values: ReadonlyMap<string, number>): DetectedChoice[] {
  const groups = new Map<string, [string, number][]>();
  for (const one of values) groups.set(fold(one[0]), [...(groups.get(fold(one[0])) ?? []), one]);
  return [...groups.values()]
    .map((spellings) => {
      const [first, ...rest] = spellings.sort(([, m], [, n]) => n - m);
      return {
        value: first?.[0] ?? '',
        count: spellings.reduce((sum, [, n]) => sum + n, 0),
        spellings: rest.map(([text]) => text),
      };
    })
    .sort((a, b) => b.count - a.count);
}

const examplesOf = (column: ColumnFigures, name: CellClass): string[] =>
  [...new Set((column.classes.get(name)?.cells ?? []).map(({ text }) => text))].slice(0, 3);
const cellOf = (column: ColumnFigures, text: string): CellAt[] =>
  [...column.classes.values()].flatMap(({ cells }) => cells.filter((one) => one.text === text));
