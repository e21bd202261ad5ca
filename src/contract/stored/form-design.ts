import { z } from 'zod';
import { GO_ON, mailed, type FormDesign, type FieldQuestion, type Question } from '../../core/form/design';
import { limits } from '../../core/limits';
import { hitPolicies, type RuleTable } from '../../core/rules/rules';
import type { FurtherWrite } from '../../core/storage/further-write';
import { check, existingCheck } from './checks';

/**
 * A design as it is stored and sent: the shape only. What it means, and whether it can be released, the core says;
 * a draft may be unfinished in every way. Bounds here only keep a request from being absurd.
 */
const id = z.string().regex(/^[a-z][a-z0-9]{1,39}$/);
const line = z.string().max(1_000);
const key = z.string().max(limits.key + 20);
const condition = z.string().max(4_000).optional();
const carry = z
  .object({ lookup: z.string().max(40), column: z.string().max(40), keep: z.enum(['copied', 'following']) })
  .strict()
  .optional();
const begins = z
  .discriminatedUnion('t', [
    z
      .object({ t: z.literal('value'), raw: z.union([z.string().max(1_000), z.boolean(), z.null()]) })
      .strict(),
    z.object({ t: z.literal('formula'), expression: z.string().max(4_000) }).strict(),
    z.object({ t: z.literal('address') }).strict(),
    z.object({ t: z.literal('last') }).strict(),
  ])
  .optional();
const asked = {
  id,
  key,
  label: line,
  hint: line,
  required: z.boolean(),
  askWhen: condition,
  requireWhen: condition,
  carry,
  again: z.boolean().optional(),
  onChange: z.enum(['locked', 'hidden']).optional(),
  onNew: z.literal('hidden').optional(),
  requiredFor: z.enum(['new', 'change']).optional(),
  begins,
  hidden: z.literal(true).optional(),
  keptAs: line.optional(),
};
const unit = z.string().max(40);
const decimals = z.number().int().min(0).max(limits.decimals);
const choice = z
  .object({
    code: z.string().min(1).max(100),
    label: z.string().max(limits.label),
    retired: z.boolean().optional(),
  })
  .strict();
const list = z.object({ id: z.uuid(), label: line }).strict();
const target = z.object({ id: z.uuid(), key, label: line, prefix: z.string().max(12) }).strict();

const fieldQuestion = z.discriminatedUnion('kind', [
  z.object({ ...asked, kind: z.literal('text'), long: z.boolean() }).strict(),
  z.object({ ...asked, kind: z.literal('whole'), unit }).strict(),
  z.object({ ...asked, kind: z.literal('decimal'), decimals, unit }).strict(),
  z.object({ ...asked, kind: z.literal('money'), decimals, unit }).strict(),
  z
    .object({ ...asked, kind: z.enum(['date', 'time', 'date-time', 'e-mail', 'web-address', 'phone']) })
    .strict(),
  z.object({ ...asked, kind: z.literal('yes-no') }).strict(),
  z.object({ ...asked, kind: z.literal('confirmation'), statement: line }).strict(),
  z
    .object({
      ...asked,
      kind: z.literal('choice'),
      choices: z.array(choice).max(limits.choices * 2),
      list: list.optional(),
    })
    .strict(),
  z
    .object({
      ...asked,
      kind: z.literal('choices'),
      choices: z.array(choice).max(limits.choices * 2),
      list: list.optional(),
    })
    .strict(),
  z
    .object({
      ...asked,
      kind: z.literal('files'),
      what: z.enum(['photos', 'files']),
      most: z.number().int().min(0).max(1_000),
    })
    .strict(),
  z
    .object({
      ...asked,
      kind: z.literal('lookup'),
      table: z.union([z.uuid(), z.literal('')]),
      show: z.array(z.string().max(40)).max(10),
      where: condition,
      misfit: z.literal('clear').optional(),
    })
    .strict(),
  z
    .object({
      ...asked,
      kind: z.literal('calculated'),
      expression: z.string().max(4_000),
      decimals,
      unit,
      gives: z.enum(['number', 'text', 'date', 'yes-no']).optional(),
    })
    .strict(),
]) satisfies z.ZodType<FieldQuestion>;

const startingRows = z.discriminatedUnion('t', [
  z.object({ t: z.literal('empty'), count: z.number().int().min(0).max(100_000) }).strict(),
  z
    .object({
      t: z.literal('same'),
      rows: z.array(z.record(id, z.union([line, z.boolean(), z.null()]))).max(limits.rows),
    })
    .strict(),
  z.object({ t: z.literal('each'), lookup: z.string().max(40), where: condition }).strict(),
]);

const rowsQuestion = z
  .object({
    ...asked,
    kind: z.literal('rows'),
    columns: z.array(fieldQuestion).max(limits.columns * 2),
    least: z.number().int().min(0).max(100_000),
    most: z.number().int().min(0).max(100_000),
    distinct: z.array(id).max(limits.columns).optional(),
    starts: startingRows.optional(),
    asPicks: z.boolean().optional(),
    within: id.optional(),
    totals: z
      .array(
        z
          .object({
            id,
            key,
            label: line,
            column: id,
            of: z.enum(['sum', 'count', 'mean', 'least', 'most']).optional(),
          })
          .strict(),
      )
      .max(limits.columns),
    table: target,
  })
  .strict();

const fixedText = z
  .object({ ...asked, kind: z.literal('fixed-text'), text: z.string().max(limits.longText) })
  .strict();

const question = z.union([fieldQuestion, rowsQuestion, fixedText]) satisfies z.ZodType<Question>;

const written = {
  id,
  when: condition,
  each: id.optional(),
  onChange: z.literal(true).optional(),
  sets: z
    .array(
      z
        .object({
          column: z.string().max(40),
          how: z.enum(['set', 'raise', 'lower']),
          expression: z.string().max(4_000),
          belowZero: z.literal(true).optional(),
        })
        .strict(),
    )
    .max(limits.tableColumns),
};
const furtherWrite = z.discriminatedUnion('t', [
  z.object({ ...written, t: z.literal('change'), lookup: z.string().max(40) }).strict(),
  z.object({ ...written, t: z.literal('add'), table: z.union([z.uuid(), z.literal('')]) }).strict(),
]) satisfies z.ZodType<FurtherWrite>;

const whom = {
  people: z.array(z.uuid()).max(limits.approvers),
  groups: z.array(z.uuid()).max(limits.approvers).optional(),
  manager: z.union([z.literal(true), z.literal(2), z.literal(3)]).optional(),
  named: condition,
};
const ofSteps = z.array(id).max(limits.steps);

const ruleTable = z
  .object({
    id,
    label: line,
    hit: z.enum(hitPolicies),
    conditions: z
      .array(z.object({ id, expression: z.string().max(4_000) }).strict())
      .max(limits.ruleConditions),
    asks: ofSteps,
    days: ofSteps,
    fills: z.array(id).max(limits.ruleFills).optional(),
    rows: z
      .array(
        z
          .object({
            id,
            cells: z
              .array(z.object({ condition: id, test: z.string().max(4_000) }).strict())
              .max(limits.ruleConditions),
            gives: z
              .array(
                z
                  .object({
                    step: id,
                    ...whom,
                    nobody: z.literal(true).optional(),
                    days: z.number().int().min(1).max(limits.withinDays).optional(),
                  })
                  .strict(),
              )
              .max(limits.steps),
            fill: z
              .array(z.object({ question: id, expression: z.string().max(4_000) }).strict())
              .max(limits.ruleFills)
              .optional(),
            weight: z.number().int().min(0).max(1_000).optional(),
          })
          .strict(),
      )
      .max(limits.ruleRows),
  })
  .strict() satisfies z.ZodType<RuleTable>;

export const formDesign = z
  .object({
    format: z.literal(1),
    title: line,
    record: line.optional(),
    after: z
      .object({ message: z.string().max(limits.word), next: z.enum(['submission', 'another']) })
      .strict()
      .optional(),
    area: line,
    sections: z
      .array(
        z
          .object({
            id,
            title: line,
            questions: z.array(question).max(limits.questions * 2),
            showWhen: condition,
            columns: z.literal(2).optional(),
          })
          .strict(),
      )
      .min(1)
      .max(100),
    checks: z.array(check).max(limits.checks),
    existing: z.array(existingCheck).max(limits.checks).optional(),
    mails: z
      .array(z.object({ on: z.enum(mailed), message: z.string().max(limits.word) }).strict())
      .max(mailed.length)
      .optional(),
    rules: z.array(ruleTable).max(limits.ruleTables).optional(),
    steps: z
      .array(
        z
          .object({
            id,
            label: line,
            ...whom,
            fallback: z.uuid().optional(),
            role: z
              .object({ group: z.uuid(), at: z.string().max(4_000) })
              .strict()
              .optional(),
            beside: z.literal(true).optional(),
            unlessApproved: z.literal(true).optional(),
            corrects: z
              .array(id)
              .max(limits.questions * 2)
              .optional(),
            decide: z.union([z.literal('all'), z.number().int().min(2).max(limits.approvers)]).optional(),
            declines: z.literal('against').optional(),
            within: z.number().int().min(1).max(limits.withinDays).optional(),
            hours: z.literal(true).optional(),
            soon: z.number().int().min(1).max(limits.withinDays).optional(),
            late: z.union([z.literal('manager'), z.literal(GO_ON), z.uuid()]).optional(),
            when: condition,
          })
          .strict(),
      )
      .max(limits.steps),
    table: target,
    finds: z.array(id).max(limits.finds).optional(),
    listedBy: z.array(id).max(limits.listedBy).optional(),
    further: z
      .array(furtherWrite)
      .max(limits.further * 2)
      .optional(),
  })
  .strict() satisfies z.ZodType<FormDesign>;
