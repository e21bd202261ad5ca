import type { Check, ExistingCheck } from '../check/check';
import type { FurtherWrite } from '../storage/further-write';
import type { RuleTable, Whom } from '../rules/rules';
import type { ColumnChoice, ListName } from '../table/model';

/**
 * A form as its owner designs it. The draft and every release hold one of these.
 * Ids are stable and never shown; keys are the names used in expressions and as column names.
 */
export interface FormDesign {
  readonly format: 1;
  readonly title: string;
  /**
   * What one of its records is called, "Accession": then a sheet is a "New accession" or "Accession
   * AC-2026-0412". Left out, the title says it.
   */
  readonly record?: string | undefined;
  /** What whoever sent it reads then, and where they go on: left out, to what they sent. */
  readonly after?: { readonly message: string; readonly next: 'submission' | 'another' } | undefined;
  /** What the form belongs to, shown above its title: "Plant health". */
  readonly area: string;
  readonly sections: readonly Section[];
  readonly checks: readonly Check[];
  /** What must hold among the records there are already. Left out, nothing. */
  readonly existing?: readonly ExistingCheck[];
  readonly steps: readonly ApprovalStep[];
  readonly table: TableTarget;
  /**
   * Answers, by id, that tell a record: where one is there that holds the same, sending leads to a change of
   * it, and none is made beside. Left out, a new one is made.
   */
  readonly finds?: readonly string[] | undefined;
  /** Answers, by id, by which lists tell what was sent from the rest. Left out, what it is about and its most telling figure. */
  readonly listedBy?: readonly string[] | undefined;
  /** What is written beside its own record when a sheet is kept, in order. Left out, nothing. */
  readonly further?: readonly FurtherWrite[] | undefined;
  /** What mails about what was sent say besides. Left out, nothing. */
  readonly mails?: readonly MailWords[] | undefined;
  /** Tables of rules that tell whom steps ask. Left out, none. */
  readonly rules?: readonly RuleTable[] | undefined;
}

/** Of what a mail may say more: somebody is asked to decide; its sender is told how it was decided. */
export const mailed = ['asked', 'sent-back', 'declined', 'kept'] as const;
export type Mailed = (typeof mailed)[number];

/** Words of the owner, with values in braces: FEEL as stored text. */
export interface MailWords {
  readonly on: Mailed;
  readonly message: string;
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
  /** FEEL as stored text: shown only while it is true. Left out, always. */
  readonly showWhen?: string | undefined;
  /** Left out, one column. */
  readonly columns?: 2 | undefined;
}

/** What a sheet of a form is for: a new record, or one that is there. */
export type Use = 'new' | 'change';

interface Asked {
  readonly id: string;
  readonly key: string;
  readonly label: string;
  readonly hint: string;
  readonly required: boolean;
  /**
   * FEEL as stored text: asked only while it is true. Left out, always. An answer that is not asked for
   * counts as empty, and is kept in case it is again.
   */
  readonly askWhen?: string;
  /** FEEL as stored text: must be filled while it is true, beside `required`. */
  readonly requireWhen?: string;
  readonly carry?: Carry;
  /** What was answered is there again when the next sheet is begun right after. */
  readonly again?: boolean | undefined;
  /** Where a record is changed: shown but not to be changed, or not shown. Left out, asked as ever. */
  readonly onChange?: 'locked' | 'hidden' | undefined;
  /** Where a new record is made: not asked. Left out, asked. */
  readonly onNew?: 'hidden' | undefined;
  /** What stands there when a new sheet is begun. Left out, the default of its column. */
  readonly begins?: Beginning | undefined;
  /** It is not shown to whoever fills it: it fills itself, by what it begins with or is calculated from. */
  readonly hidden?: true | undefined;
  /** What its column is called, where that is not what is asked: “Which bed is it?” is kept as “Bed”. */
  readonly keptAs?: string | undefined;
  /** The use of the form in which it is required, where it is not in both. */
  readonly requiredFor?: Use | undefined;
}

/**
 * `value`: as it would be typed. `formula`: FEEL as stored text, worked out when the sheet is opened, of what
 * is known then: the day, and who opens it. `address`: what stands in the address under the question's key.
 * `last`: what whoever opens it answered the last time.
 */
export type Beginning =
  | { readonly t: 'value'; readonly raw: string | boolean | null }
  | { readonly t: 'formula'; readonly expression: string }
  | { readonly t: 'address' }
  | { readonly t: 'last' };

/**
 * Brings a column of a looked-up record along. `copied`: written into the answer when the record is picked,
 * to be changed at will, and kept as it was; `following`: calculated from the record as it is whenever the
 * sheet is open, and not typed.
 */
export interface Carry {
  /** The id of the lookup, in the same row or of the form. */
  readonly lookup: string;
  readonly column: string;
  readonly keep: 'copied' | 'following';
}

export interface TextQuestion extends Asked {
  readonly kind: 'text';
  readonly long: boolean;
}
export interface WholeQuestion extends Asked {
  readonly kind: 'whole';
  readonly unit: string;
}
export interface DecimalQuestion extends Asked {
  readonly kind: 'decimal';
  readonly decimals: number;
  readonly unit: string;
}
/** `unit` is the currency (ISO 4217). */
export interface MoneyQuestion extends Asked {
  readonly kind: 'money';
  readonly decimals: number;
  readonly unit: string;
}
/** Kinds that need no settings of their own. */
export interface PlainQuestion extends Asked {
  readonly kind: 'time' | 'date-time' | 'e-mail' | 'web-address' | 'phone';
}
export interface DateQuestion extends Asked {
  readonly kind: 'date';
}
export interface YesNoQuestion extends Asked {
  readonly kind: 'yes-no';
}
/** A sentence that is ticked or not: what is not ticked is empty, so asking for it asks for the tick. */
export interface ConfirmationQuestion extends Asked {
  readonly kind: 'confirmation';
  /** What is confirmed; left empty, the label says it. */
  readonly statement: string;
}
/** `list`, left out, is none: the choices are its own. Otherwise they are those of the list, as they are when the design is read. */
export interface ChoiceQuestion extends Asked {
  readonly kind: 'choice';
  readonly choices: readonly ColumnChoice[];
  readonly list?: ListName | undefined;
}
/** As many of its choices as apply. */
export interface ChoicesQuestion extends Asked {
  readonly kind: 'choices';
  readonly choices: readonly ColumnChoice[];
  readonly list?: ListName | undefined;
}
/** Photos, or files of any kind that is taken. */
export interface FilesQuestion extends Asked {
  readonly kind: 'files';
  readonly what: 'photos' | 'files';
  readonly most: number;
}
/** Picks a record of `table`; `show` are the columns each option shows and is searched by. */
export interface LookupQuestion extends Asked {
  readonly kind: 'lookup';
  readonly table: string;
  readonly show: readonly string[];
  /**
   * FEEL as stored text, over the columns of the table and the answers: only records of which it is true are
   * offered, and taken. Left out, all.
   */
  readonly where?: string | undefined;
  /** What becomes of a pick that fits its filter no more. Left out, it stays and is told. */
  readonly misfit?: 'clear' | undefined;
}
/** `expression` is FEEL as stored text: ids in place of keys. `gives`, left out, is a number. */
export interface CalculatedQuestion extends Asked {
  readonly kind: 'calculated';
  readonly expression: string;
  readonly decimals: number;
  readonly unit: string;
  readonly gives?: 'number' | 'text' | 'date' | 'yes-no';
}

export interface RowsQuestion extends Asked {
  readonly kind: 'rows';
  readonly columns: readonly FieldQuestion[];
  readonly least: number;
  readonly most: number;
  readonly totals: readonly Total[];
  readonly table: TableTarget;
  /** Columns, by id, that no two rows may have all the same. Left out, rows may be alike. */
  readonly distinct?: readonly string[] | undefined;
  /** What stands there when a new sheet is begun. Left out, nothing. */
  readonly starts?: StartingRows | undefined;
  /** Records picked of its one lookup, shown as words in a line. Left out, rows of a table. */
  readonly asPicks?: boolean | undefined;
  /**
   * The group, by id, in each of whose rows these stand: the lots of each line. That group stands in no
   * other. Left out, they are of the form.
   */
  readonly within?: string | undefined;
}

/**
 * `empty`: so many blank rows to type in. `same`: rows that are the same each time, their cells as typed.
 * `each`: one for each record that a lookup among the columns offers, and of which `where` is true (FEEL as
 * stored text, as of a lookup), as soon as all they read is answered.
 */
export type StartingRows =
  | { readonly t: 'empty'; readonly count: number }
  | { readonly t: 'same'; readonly rows: readonly Readonly<Record<string, string | boolean | null>>[] }
  | { readonly t: 'each'; readonly lookup: string; readonly where?: string | undefined };

/** The column picked from, where the rows are shown as what was picked: one lookup alone. */
export function pickedColumn({ columns, asPicks }: RowsQuestion): LookupQuestion | null {
  const [first] = columns;
  return asPicks === true && columns.length === 1 && first?.kind === 'lookup' ? first : null;
}

/** One column over the rows, kept beside the answers of the form under its own key. */
export interface Total {
  readonly id: string;
  readonly key: string;
  readonly label: string;
  readonly column: string;
  /** What is made of it. Left out, the sum. */
  readonly of?: 'sum' | 'count' | 'mean' | 'least' | 'most' | undefined;
}

/** Words between the questions, under a heading that may be empty. Nothing is answered, and nothing kept. */
export interface FixedText extends Asked {
  readonly kind: 'fixed-text';
  readonly text: string;
}

export type FieldQuestion =
  | TextQuestion
  | WholeQuestion
  | DecimalQuestion
  | MoneyQuestion
  | PlainQuestion
  | DateQuestion
  | YesNoQuestion
  | ConfirmationQuestion
  | ChoiceQuestion
  | ChoicesQuestion
  | FilesQuestion
  | LookupQuestion
  | CalculatedQuestion;
export type Question = FieldQuestion | RowsQuestion | FixedText;
export type QuestionKind = Question['kind'];

/**
 * A sender who is among those it asks is left out, for nobody approves their own. What a table of rules says
 * of it stands in the table (`FormDesign.rules`).
 */
export interface ApprovalStep extends Whom {
  readonly id: string;
  readonly label: string;
  /** A person, by id, who is asked where nobody else can be. Left out, it cannot be sent then. */
  readonly fallback?: string | undefined;
  /** Those of a group who are at a place that the answers name: the section lead of Fern house. Left out, nobody. */
  readonly role?: RoleAt | undefined;
  /** Asked at the same time as the step before it. Left out, after that. */
  readonly beside?: true | undefined;
  /** Not asked where all it would ask have approved an earlier step since it was sent. Left out, they are asked again. */
  readonly unlessApproved?: true | undefined;
  /** Questions, by id, whose answers they may correct: typed ones, also in rows. Left out, none. */
  readonly corrects?: readonly string[] | undefined;
  /** How many of them must approve: all, or at least so many. Left out, any one. One who sends back decides for all. */
  readonly decide?: 'all' | number | undefined;
  /**
   * Whoever declines counts as one against: it is declined once too few are left to approve. Left out, one
   * who declines decides for all.
   */
  readonly declines?: 'against' | undefined;
  /** Working days, after the day it begins, within which it is to be decided; or working hours. Left out, there is no hurry. */
  readonly within?: number | undefined;
  readonly hours?: true | undefined;
  /** So many working days, or hours, before it is due those who are asked are told once more. Left out, on the day it is due. */
  readonly soon?: number | undefined;
  /**
   * Once it is late: `go-on`, it counts as done without them; else who is asked as well, or instead where all
   * must approve: the manager of whoever is late, or a person by id. Left out, it is only told.
   */
  readonly late?: string | undefined;
  /** FEEL as stored text: asked only where it is true of what is sent. Left out, always; where it cannot be told, it is asked. */
  readonly when?: string | undefined;
}

/** `at`: FEEL as stored text that gives the place, as it is written in the directory of people. */
export interface RoleAt {
  readonly group: string;
  readonly at: string;
}

/** Where it is late and nobody has decided, it counts as done. */
export const GO_ON = 'go-on';

/** Whom a step asks by name where it cannot ask those it asks, or they are late. */
export const besides = ({ fallback, late }: ApprovalStep): string[] =>
  [fallback, late].filter((one): one is string => one !== undefined && one !== 'manager' && one !== GO_ON);

export const rulesIn = ({ rules }: Pick<FormDesign, 'rules'>): readonly RuleTable[] => rules ?? [];

export const questionsOf = (design: FormDesign): readonly Question[] =>
  design.sections.flatMap((section) => section.questions);
/** Questions with the columns of repeating rows, in the order of the form. */
export const allQuestions = (design: FormDesign): readonly Question[] =>
  questionsOf(design).flatMap((one): readonly Question[] =>
    one.kind === 'rows' ? [one, ...one.columns] : [one],
  );
/** Whether an answer is typed: neither calculated nor followed from a record. */
export const isTyped = (question: FieldQuestion): question is Exclude<FieldQuestion, CalculatedQuestion> =>
  question.kind !== 'calculated' && question.carry?.keep !== 'following';
export const groupsOf = (design: FormDesign): readonly RowsQuestion[] =>
  questionsOf(design).filter((one) => one.kind === 'rows');
/** The groups that stand in each row of a group; with null, those of the form itself. */
export const groupsIn = (design: FormDesign, group: RowsQuestion | null): readonly RowsQuestion[] =>
  groupsOf(design).filter(({ within }) => within === group?.id);
/** Each group after the one its rows stand in. */
export const outerFirst = (design: FormDesign): readonly RowsQuestion[] =>
  [...groupsOf(design)].sort((a, b) => Number(a.within !== undefined) - Number(b.within !== undefined));
/** The totals that are kept beside the answers of each row of a group; with null, of the form. */
export const totalsBeside = (design: FormDesign, group: RowsQuestion | null): readonly Total[] =>
  groupsIn(design, group).flatMap(({ totals }) => totals);
/** The group in whose rows rows stand; null for those of the form itself, and for all else. */
export const outerOf = (design: FormDesign, question: Question): RowsQuestion | null =>
  question.kind === 'rows' && question.within !== undefined
    ? (groupsOf(design).find(({ id }) => id === question.within) ?? null)
    : null;
/** The group in whose rows something stands, once in each: a column, rows within rows, or a total of them. Null for what is of the form. */
export function homeOf(design: FormDesign, id: string): RowsQuestion | null {
  const groups = groupsOf(design);
  const of = groups.find(({ columns }) => columns.some((column) => column.id === id));
  if (of !== undefined) return of;
  const inner = groups.find((one) => one.id === id || one.totals.some((total) => total.id === id));
  return inner === undefined ? null : outerOf(design, inner);
}
/** Whether it has one answer: neither rows nor fixed text. */
export const isField = (question: Question): question is FieldQuestion =>
  question.kind !== 'rows' && question.kind !== 'fixed-text';
/** Answers of the form itself that are worked out; rules may fill them. */
export const calculatedIn = (design: FormDesign): readonly CalculatedQuestion[] =>
  questionsOf(design).filter((one) => one.kind === 'calculated');
/** The questions of the form itself that have one answer each, without the columns of its rows. */
export const fieldsOfForm = (design: FormDesign): readonly FieldQuestion[] =>
  questionsOf(design).filter(isField);
