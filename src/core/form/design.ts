/**
 * A form as its owner designs it. The draft and every release hold one of these.
 * Ids are stable and never shown; keys are the names used in expressions and as column names.
 */
export interface FormDesign {
  readonly format: 1;
  readonly title: string;
  /** What the form belongs to, shown above its title: "Plant health". */
  readonly area: string;
  readonly sections: readonly Section[];
  readonly checks: readonly Check[];
  readonly steps: readonly ApprovalStep[];
  readonly table: TableTarget;
}

/** The table answers are kept in; `id` is set before the table is made, so that it can be referred to. */
export interface TableTarget {
  readonly id: string;
  readonly key: string;
  readonly label: string;
  /** Before the number of each record: `TR` in TR-2026-0147. */
  readonly prefix: string;
}

export interface Section {
  readonly id: string;
  readonly title: string;
  readonly questions: readonly Question[];
}

interface Asked {
  readonly id: string;
  readonly key: string;
  readonly label: string;
  readonly hint: string;
  readonly required: boolean;
}

export interface TextQuestion extends Asked { readonly kind: 'text'; readonly long: boolean }
export interface WholeQuestion extends Asked { readonly kind: 'whole'; readonly unit: string }
export interface DecimalQuestion extends Asked { readonly kind: 'decimal'; readonly decimals: number; readonly unit: string }
export interface DateQuestion extends Asked { readonly kind: 'date' }
export interface YesNoQuestion extends Asked { readonly kind: 'yes-no' }
export interface ChoiceQuestion extends Asked { readonly kind: 'choice'; readonly choices: readonly Choice[] }
/** Picks a record of `table`; `show` are the columns each option shows and is searched by. */
export interface LookupQuestion extends Asked { readonly kind: 'lookup'; readonly table: string; readonly show: readonly string[] }
/** `expression` is FEEL as stored text: ids in place of keys. */
export interface CalculatedQuestion extends Asked { readonly kind: 'calculated'; readonly expression: string; readonly decimals: number; readonly unit: string }

export interface RowsQuestion extends Asked {
  readonly kind: 'rows';
  readonly columns: readonly FieldQuestion[];
  readonly least: number;
  readonly most: number;
  readonly totals: readonly Total[];
  readonly table: TableTarget;
}

/** The sum of one column over the rows, kept beside the answers of the form under its own key. */
export interface Total {
  readonly id: string;
  readonly key: string;
  readonly label: string;
  readonly column: string;
}

export interface Choice {
  readonly code: string;
  readonly label: string;
}

export type FieldQuestion =
  | TextQuestion | WholeQuestion | DecimalQuestion | DateQuestion | YesNoQuestion | ChoiceQuestion | LookupQuestion | CalculatedQuestion;
export type Question = FieldQuestion | RowsQuestion;
export type QuestionKind = Question['kind'];

/** `must` is FEEL as stored text; picking writes it and reads it back. `on` is the line the message stands at. */
export interface Check {
  readonly id: string;
  readonly on: string;
  readonly must: string;
  readonly message: string;
  readonly otherwise: 'stop' | 'ask';
}

/** Any one of `people` decides; a sender who is among them is left out, for nobody approves their own. */
export interface ApprovalStep {
  readonly id: string;
  readonly label: string;
  readonly people: readonly string[];
}

export const questionsOf = (design: FormDesign): readonly Question[] => design.sections.flatMap((section) => section.questions);
export const groupsOf = (design: FormDesign): readonly RowsQuestion[] => questionsOf(design).filter((one) => one.kind === 'rows');

/** One numbered line of the sheet. A value worked out stands beside the answer before it, on that answer's line. */
export interface Line {
  readonly number: string;
  readonly questions: readonly Question[];
}

export function linesOf(design: FormDesign): ReadonlyMap<string, readonly Line[]> {
  let count = 0;
  return new Map(design.sections.map((section) => {
    const lines: { number: string; questions: Question[] }[] = [];
    for (const question of section.questions) {
      const before = lines.at(-1);
      const beside = question.kind === 'calculated' && before !== undefined && before.questions.length === 1 && before.questions[0]?.kind !== 'rows';
      if (beside) before.questions.push(question);
      else lines.push({ number: String(++count), questions: [question] });
    }
    return [section.id, lines];
  }));
}

/** The line number of every question, column and total. */
export function lineNumbers(design: FormDesign): ReadonlyMap<string, string> {
  const numbers = new Map<string, string>();
  for (const line of [...linesOf(design).values()].flat()) {
    for (const question of line.questions) {
      numbers.set(question.id, line.number);
      if (question.kind === 'rows') for (const one of [...question.columns, ...question.totals]) numbers.set(one.id, line.number);
    }
  }
  return numbers;
}

/** a, b … z, aa, ab: how the rows of a repeating group are counted. */
export function rowLetter(index: number): string {
  const rest = Math.floor(index / 26);
  return (rest === 0 ? '' : rowLetter(rest - 1)) + String.fromCharCode(97 + (index % 26));
}
