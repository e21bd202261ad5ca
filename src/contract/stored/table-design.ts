import { z } from 'zod';
import { limits } from '../../core/limits';
import { columnKinds, numberings, personalKinds, type Table } from '../../core/table/model';
import type { Redesign } from '../../core/table/redesign';
import { tableCheck } from './checks';

/** A table as it is designed and sent: the shape only. A draft may be unfinished in every way; what it means the core says. */
const id = z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,39}$/);
const line = z.string().max(1_000);
const key = z.string().max(limits.key + 20);
const choice = z
  .object({
    code: z.string().min(1).max(100),
    label: z.string().max(limits.label),
    retired: z.boolean().optional(),
  })
  .strict();

const column = z
  .object({
    id,
    key,
    label: line,
    kind: z.enum(columnKinds),
    required: z.boolean(),
    unique: z.boolean(),
    decimals: z.number().int().min(0).max(limits.decimals).nullable(),
    unit: z.string().max(40),
    choices: z.array(choice).max(limits.choices * 2),
    list: z.object({ id: z.uuid(), label: line }).strict().nullable().default(null),
    target: z.uuid().nullable(),
    description: z.string().max(limits.word),
    example: line,
    default: z.string().max(4_000),
    formula: z.string().max(4_000).default(''),
    locked: z.boolean().default(false),
    personal: z.enum(personalKinds).nullable(),
    restricted: z.boolean().default(false),
  })
  .strict();

/** A column is empty while it is not picked yet. */
const match = z
  .object({ id, from: z.union([id, z.literal('')]), table: z.uuid(), to: z.union([id, z.literal('')]) })
  .strict();

export const table = z
  .object({
    id: z.uuid(),
    key,
    label: line,
    prefix: z.string().max(12),
    numbering: z.enum(numberings),
    parent: z.uuid().nullable(),
    columns: z.array(column).max(limits.tableColumns * 2),
    title: z.array(id).max(10),
    together: z.array(z.array(id).max(10)).max(20),
    checks: z.array(tableCheck).max(limits.checks).default([]),
    matches: z.array(match).max(limits.matches).default([]),
    retired: z.array(column).max(limits.tableColumns * 2),
    duty: z
      .object({ years: z.number().int().min(1).max(limits.yearsKept), why: line })
      .strict()
      .nullable()
      .default(null),
    version: z.number().int().min(0),
    guarded: z.union([z.literal(false), z.enum(['partly', 'whole'])]).default(false),
    linked: z
      .object({ source: z.string().max(limits.label), adds: z.boolean(), changes: z.boolean() })
      .strict()
      .nullable()
      .default(null),
  })
  .strict() satisfies z.ZodType<Table>;

const reading = z
  .object({
    decimalSign: z.enum(['.', ',']),
    dateOrder: z.enum(['ymd', 'dmy', 'mdy']),
    yesNo: z.number().int().min(0).max(50),
  })
  .partial()
  .strict();

export const redesign = z
  .object({
    table,
    readings: z.record(id, reading),
    mends: z.record(id, z.record(z.string().max(limits.longText), z.string().max(limits.longText))),
  })
  .strict() as unknown as z.ZodType<Redesign>;
