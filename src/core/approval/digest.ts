import { shown } from '../form/cells';
import { columnKindOf } from '../form/column-kind';
import { fieldsOfForm, groupsOf, outerOf, type FieldQuestion, type FormDesign } from '../form/design';
import type { Sheet } from '../form/sheet';
import { totalAsQuestion } from '../form/totals';
import { alikeBy, tellingFigure } from './compared';

/** What a list says of something that was sent, worked out once and kept until its answers are others. */
export interface Digest {
  /** By what it is told from others, in words; empty where nothing of that is answered. */
  readonly told: string;
  /** How many of its figures lie far beyond the usual. */
  readonly beyond: number;
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
export const digestWords = (sheet: Sheet): string =>
  tellsBy(sheet.form.design)
    .flatMap((question) => {
      const words = [...shown(question, sheet.value([question.id]))].slice(0, MOST_LETTERS).join('').trim();
      if (words === '') return [];
      return [speaksForItself(question) ? words : `${question.label} ${words}`];
    })
    .join(' · ');

const speaksForItself = (question: FieldQuestion): boolean =>
  ['text', 'reference', 'choice', 'choices', 'e-mail', 'web-address'].includes(columnKindOf(question));
