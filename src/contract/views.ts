import { z } from 'zod';
import { limits } from '../core/limits';
import { layouts, type Look, type View } from '../core/record/view';

const places = z.string().max(8_000);
const ids = z.array(z.uuid()).max(limits.approvers);

export const look = z
  .object({
    columns: z.array(z.string().max(200)).max(limits.tableColumns).nullable(),
    widths: z
      .record(z.string().max(200), z.number().int().min(60).max(900))
      .refine((some) => Object.keys(some).length <= limits.tableColumns),
    pinned: z.number().int().min(0).max(8),
  })
  .strict() satisfies z.ZodType<Look>;

const design = z
  .object({
    find: z.string().max(limits.label),
    where: z.string().max(4_000),
    sort: z.string().max(400),
    columns: places,
    group: z.string().max(400),
    layout: z.enum(layouts),
    day: z.string().max(200),
    asks: z.array(z.string().max(200)).max(12),
  })
  .strict();
const view = z
  .object({
    label: z.string().trim().min(1).max(limits.label),
    for: z.object({ everybody: z.boolean(), groups: ids, people: ids }).strict(),
    isFirst: z.boolean(),
    design,
  })
  .strict() satisfies z.ZodType<View>;

/** A new one has no version yet. */
export const keepView = z.object({ version: z.number().int().min(1).nullable(), view }).strict();

/** How an address asks for a table to be shown. */
export const viewAsked = z.object({ view: z.uuid(), ...design.omit({ asks: true }).shape }).partial();
