import { retyped, shown } from '../form/cells';
import { columnKindOf } from '../form/column-kind';
import { fieldsOfForm, groupsOf, outerOf, type FieldQuestion, type FormDesign } from '../form/design';
import type { Sheet } from '../form/sheet';
import type { KindFacts } from '../table/kinds/kind';
import { kinds } from '../table/kinds/list';
import type { ColumnKind } from '../table/model';
import { totalAsQuestion } from '../form/totals';
import { alikeBy, tellingFigure } from './compared';

/** What a list says of something that was sent, worked out once and kept until its answers are others. */
export interface Digest {
  /** By what it is told from others, of what is answered of that. */
  readonly told: readonly ToldPart[];
  /** How many of its figures lie far beyond the usual. */
  readonly beyond: number;
}

/** One of its answers. */
export interface ToldPart {
  /** What it is called; empty where it tells by itself. */
  readonly label: string;
  readonly kind: ColumnKind;
  readonly decimals?: number | null;
  readonly unit?: string;
  /** Of numbers, days, times and yes or no as everybody keeps them; of anything else its words. */
  readonly text: string;
}

/** Answers by which what was sent may be told apart in a list: short ones, each once in a form. */
export const tellable = (design: FormDesign): FieldQuestion[] => [
  ...fieldsOfForm(design).filter(({ kind }) => kind !== 'files'),
  ...groupsOf(design)
    .filter((group) => outerOf(design, group) === null)
    .flatMap((group) => group.totals.map((total) => totalAsQuestion(group, total))),
];

/** Those picked by the owner; left to us, what it is about and its most telling figure. */
export function tellsBy(design: FormDesign): FieldQuestion[] {
  const all = tellable(design);
  if (design.listedBy !== undefined)
    return design.listedBy.flatMap((id) => all.find((one) => one.id === id) ?? []);
  return [alikeBy(design), tellingFigure(design)].filter((one): one is FieldQuestion => one !== null);
}

/** More of one answer is cut off. */
const MOST_LETTERS = 60;

/** What tells by itself stands alone; a figure, a day or a yes with what it is. */
export const digestParts = (sheet: Sheet): ToldPart[] =>
  tellsBy(sheet.form.design).flatMap((question) => {
    const kind = columnKindOf(question);
    const value = sheet.value([question.id]);
    const words = hasFormat(kind) ? String(retyped(question, value) ?? '') : shown(question, value);
    const text = [...words].slice(0, MOST_LETTERS).join('').trim();
    if (text === '') return [];
    const { decimals, unit }: KindFacts = question;
    const label = speaksForItself(kind) ? '' : question.label;
    return [
      { label, kind, text, ...(decimals !== undefined && { decimals }), ...(unit !== undefined && { unit }) },
    ];
  });

/** The same in words, as whoever looks reads days and numbers. */
export const digestWords = (parts: readonly ToldPart[]): string =>
  parts
    .map(({ label, ...part }) => (label === '' ? partWords(part) : `${label} ${partWords(part)}`))
    .join(' · ');

function partWords({ kind, text, ...facts }: Omit<ToldPart, 'label'>): string {
  if (!hasFormat(kind)) return text;
  const read = kinds[kind].read(kind === 'yes-no' ? text === 'true' : text, facts);
  return read.ok ? kinds[kind].show(read.value, facts) : text;
}

const hasFormat = (kind: ColumnKind): boolean =>
  ['whole', 'decimal', 'money', 'date', 'time', 'date-time', 'yes-no'].includes(kind);

const speaksForItself = (kind: ColumnKind): boolean =>
  ['text', 'reference', 'choice', 'choices', 'e-mail', 'web-address'].includes(kind);
