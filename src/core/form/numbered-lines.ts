import { groupsIn, isField, outerOf, type FormDesign, type Question } from './design';

/**
 * One line of the sheet. A calculated value stands beside the answer before it, on that answer's line. Fixed
 * text has no number, for nothing refers to it; rows within rows have no line of their own.
 */
export interface Line {
  readonly id: string;
  readonly number: string;
  readonly questions: readonly Question[];
  /** It takes half the width, beside another one. */
  readonly half?: true;
}

/** What is too wide to stand beside something else. */
const isWide = (question: Question): boolean =>
  !isField(question) || question.kind === 'files' || (question.kind === 'text' && question.long);

export function linesOf(design: FormDesign): ReadonlyMap<string, readonly Line[]> {
  let count = 0;
  return new Map(
    design.sections.map((section) => {
      const lines: { id: string; number: string; questions: Question[] }[] = [];
      for (const question of section.questions) {
        if (outerOf(design, question) !== null) continue;
        const before = lines.at(-1);
        const beside =
          question.kind === 'calculated' &&
          before !== undefined &&
          before.questions.length === 1 &&
          before.questions.every(isField);
        if (beside) before.questions.push(question);
        else {
          const number = question.kind === 'fixed-text' ? '' : String(++count);
          lines.push({ id: question.id, number, questions: [question] });
        }
      }
      return [section.id, section.columns === 2 ? lines.map(halved) : lines];
    }),
  );
}

const halved = (line: Line): Line =>
  line.questions.length === 1 && !line.questions.some(isWide) ? { ...line, half: true } : line;

/** The line number of every question, column and total. */
export function lineNumbers(design: FormDesign): ReadonlyMap<string, string> {
  const numbers = new Map<string, string>();
  for (const line of [...linesOf(design).values()].flat()) {
    for (const question of line.questions) {
      numbers.set(question.id, line.number);
      if (question.kind === 'rows')
        for (const group of [question, ...groupsIn(design, question)])
          for (const one of [group, ...group.columns, ...group.totals]) numbers.set(one.id, line.number);
    }
  }
  return numbers;
}

/** a, b … z, aa, ab: how the rows of a repeating group are counted. */
export function rowLetter(index: number): string {
  const rest = Math.floor(index / 26);
  return (rest === 0 ? '' : rowLetter(rest - 1)) + String.fromCharCode(97 + (index % 26));
}
