import { valuesIn } from '../check/message';
import { PERSON } from '../expression/person';
import { TEXT, YES_NO, type Type } from '../expression/type';
import type { Issue } from '../kernel/issue';
import { fillOf, type RuleTable } from '../rules/rules';
import { kinds } from '../table/kinds/list';
import { calculatedKind } from './column-kind';
import {
  homeOf,
  outerOf,
  questionsOf,
  rulesIn,
  calculatedIn,
  type ApprovalStep,
  type CalculatedQuestion,
  type FormDesign,
  type Mailed,
  type Question,
  type RowsQuestion,
} from './design';
import type { FormulaUse } from './formula';
import { furtherExpressions, furtherId } from './further-writes';
import { fillId, filledBy, fillingRows, otherwiseId } from './filled-by-rules';
import { begunBy, fitsId, startsId } from './lookup-filter';
import { readStored, scopeOf, type TablesById } from './scope';
import { requireId } from './sheet-ids';

/** One expression of a design before it is read: where it stands, what it must give, and where its issues go. */
export interface Written {
  readonly what: FormulaUse;
  readonly id: string;
  readonly group: RowsQuestion | null;
  readonly stored: string;
  readonly path: Issue['path'];
  readonly wanted: Type;
}

export const askedId = (id: string): string => `${id}:asked`;
/** Whom a step asks because of the answers. */
export const whomId = (step: string): string => `${step}:whom`;

/** The place at which somebody of a group is asked. */
export const placeId = (step: string): string => `${step}:place`;

/** Whom a row of a table of rules asks because of the answers. */
export const givenId = (row: string, step: string): string => `${row}:${step}:whom`;

/** Every expression of a design that must be read for it to be filled. */
export const expressionsOf = (design: FormDesign, tables: TablesById): Written[] => [
  ...writtenIn(design),
  ...furtherIn(design, tables),
];

/** Those of sections, of questions, of columns, of checks, and of steps. */
function writtenIn(design: FormDesign): Written[] {
  const sections = design.sections.flatMap((of) =>
    condition({ t: 'asked', of }, of.id, of.showWhen, [of.id, 'showWhen']),
  );
  const questions = questionsOf(design).flatMap((question) => [
    ...(question.kind === 'calculated' && filledBy(design, question.id) !== undefined
      ? otherwiseOf(question)
      : questionExpressions(question, outerOf(design, question))),
    ...(question.kind === 'rows'
      ? question.columns.flatMap((column) => questionExpressions(column, question))
      : []),
  ]);
  const checks = design.checks.map((check): Written => {
    const group = homeOf(design, check.on);
    return {
      what: { t: 'check', check },
      id: check.id,
      group,
      stored: check.must,
      path: ['checks', check.id],
      wanted: YES_NO,
    };
  });
  const steps = design.steps.flatMap((step) => [
    ...condition({ t: 'step', step }, step.id, step.when, ['steps', step.id, 'when']),
    ...whom(step),
    ...place(step),
  ]);
  return [
    ...sections,
    ...questions,
    ...checks,
    ...steps,
    ...rulesIn(design).flatMap(givenBy),
    ...rulesIn(design).flatMap((table) => fillsOf(design, table)),
  ];
}

/** Whether something of the form as a whole is asked; nothing where it always is. */
const condition = (
  what: FormulaUse,
  of: string,
  stored: string | undefined,
  path: Issue['path'],
): Written[] =>
  stored === undefined ? [] : [{ what, id: askedId(of), group: null, stored, path, wanted: YES_NO }];

/** Whom rows of a table of rules ask by the answers. */
const givenBy = (table: RuleTable): Written[] =>
  table.rows.flatMap((row) =>
    row.gives.flatMap(({ step, named }): Written[] =>
      named === undefined
        ? []
        : [
            {
              what: { t: 'given', table, row: row.id, step },
              id: givenId(row.id, step),
              group: null,
              stored: named,
              path: ['rules', table.id, row.id, step],
              wanted: PERSON,
            },
          ],
    ),
  );

/** What the rows of a table give the answers it fills. */
const fillsOf = (design: FormDesign, table: RuleTable): Written[] =>
  calculatedIn(design)
    .filter(({ id }) => filledBy(design, id) === table)
    .flatMap((question) =>
      fillingRows(table, question.id).map((row): Written => ({
        what: { t: 'fill', table, question },
        id: fillId(row.id, question.id),
        group: null,
        stored: fillOf(row, question.id),
        path: ['rules', table.id, row.id, question.id],
        wanted: kinds[calculatedKind(question)].type,
      })),
    );

const whom = (step: ApprovalStep): Written[] =>
  step.named === undefined
    ? []
    : [
        {
          what: { t: 'whom', step },
          id: whomId(step.id),
          group: null,
          stored: step.named,
          path: ['steps', step.id, 'named'],
          wanted: PERSON,
        },
      ];

const place = (step: ApprovalStep): Written[] =>
  step.role === undefined
    ? []
    : [
        {
          what: { t: 'place', step },
          id: placeId(step.id),
          group: null,
          stored: step.role.at,
          path: ['steps', step.id, 'role'],
          wanted: TEXT,
        },
      ];

/** A message, whose values are formulas. */
export interface WrittenMessage {
  readonly what: (index: number) => FormulaUse;
  /** Of what it is: the ids of its formulas begin with it. */
  readonly id: string;
  readonly group: RowsQuestion | null;
  readonly message: string;
  readonly path: Issue['path'];
}

export const mailId = (on: Mailed): string => `mail:${on}`;

/** What checks say, and mails. */
export const messagesOf = (design: FormDesign): WrittenMessage[] => [
  ...design.checks.map((check) => ({
    what: (index: number) => ({ t: 'message' as const, check, index }),
    id: check.id,
    group: homeOf(design, check.on),
    message: check.message,
    path: ['checks', check.id, 'message'],
  })),
  ...(design.mails ?? []).map(({ on, message }) => ({
    what: (index: number) => ({ t: 'mail' as const, on, index }),
    id: mailId(on),
    group: null,
    message,
    path: ['mails', on],
  })),
];

/** Values in messages that cannot be worked out. Paths: `['checks', id, 'message']`, `['mails', on]`. */
export const messageIssues = (design: FormDesign, tables: TablesById): Issue[] =>
  messagesOf(design).flatMap(({ message, group, path }) => {
    const scope = scopeOf(design, tables, group ?? undefined);
    return valuesIn(message).flatMap((stored) => {
      const tree = readStored(stored, scope, path);
      return tree.ok ? [] : tree.error;
    });
  });

const furtherIn = (design: FormDesign, tables: TablesById): Written[] =>
  furtherExpressions(design, tables).map(({ write, column, group, stored, wanted }) => ({
    what: { t: 'further', write, column },
    id: furtherId(write.id, column),
    group,
    stored,
    path: ['further', write.id, column ?? 'when'],
    wanted,
  }));

/** Of an answer that rules fill: what it is where they do not say, which may be nothing. */
const otherwiseOf = (question: CalculatedQuestion): Written[] =>
  questionExpressions(question, null).flatMap((one) =>
    one.id !== question.id
      ? [one]
      : one.stored.trim() === ''
        ? []
        : [{ ...one, what: { t: 'otherwise', question }, id: otherwiseId(question.id) }],
  );

function questionExpressions(of: Question, group: RowsQuestion | null): Written[] {
  const found: Written[] = [];
  if (of.kind === 'calculated')
    found.push({
      what: { t: 'calculated', question: of },
      id: of.id,
      group,
      stored: of.expression,
      path: [of.id],
      wanted: kinds[calculatedKind(of)].type,
    });
  if (of.askWhen !== undefined)
    found.push({
      what: { t: 'asked', of },
      id: askedId(of.id),
      group,
      stored: of.askWhen,
      path: [of.id, 'askWhen'],
      wanted: YES_NO,
    });
  if (of.kind === 'lookup' && of.where !== undefined)
    found.push({
      what: { t: 'fits', question: of },
      id: fitsId(of.id),
      group,
      stored: of.where,
      path: [of.id, 'where'],
      wanted: YES_NO,
    });
  const begun = of.kind === 'rows' ? begunBy(of) : null;
  if (of.kind === 'rows' && begun !== null && begun.where !== '')
    found.push({
      what: { t: 'starts', group: of, question: begun.lookup },
      id: startsId(of.id),
      group: null,
      stored: begun.where,
      path: [of.id, 'starts'],
      wanted: YES_NO,
    });
  if (of.requireWhen !== undefined)
    found.push({
      what: { t: 'required', of },
      id: requireId(of.id),
      group,
      stored: of.requireWhen,
      path: [of.id, 'requireWhen'],
      wanted: YES_NO,
    });
  return found;
}
