import { z } from 'zod';
import { limits } from '../core/limits';
import { answers } from './stored/answers';
import { formDesign } from './stored/form-design';

const version = z.number().int().min(0).max(2_000_000_000);

/** A new form, or one like another. */
export const newForm = z
  .object({
    id: z.uuid(),
    title: z.string().trim().min(1).max(limits.label),
    like: z.uuid().optional(),
  })
  .strict();
export const formOfTable = z.object({ id: z.uuid() }).strict();
export const editForm = z.object({ version, design: formDesign }).strict();
export const readImpact = z.object({ must: z.string().min(1).max(4_000), on: z.string().max(40) }).strict();
export const lineInHand = z
  .object({
    line: z
      .string()
      .regex(/^[a-z][a-z0-9]{1,39}$/)
      .nullable(),
  })
  .strict();
const localMoment = z.string().regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/);
export const opening = z
  .object({
    closed: z.boolean(),
    from: localMoment.nullable(),
    until: localMoment.nullable(),
    most: z.number().int().min(1).max(10_000_000).nullable(),
  })
  .strict();
/** 0, which no release has, for what is no number. */
export const releaseNumber = (text: string | undefined): number =>
  /^\d{1,6}$/.test(text ?? '') ? Number(text) : 0;
export const releaseForm = z
  .object({
    version,
    allow: z.array(z.uuid()).max(limits.questions).default([]),
    fill: z.literal('everybody').optional(),
    /** What is new, for whoever goes on with a draft. */
    note: z.string().trim().max(limits.word).optional(),
  })
  .strict();
export const allowForm = z.object({ form: z.uuid(), allowed: z.boolean() }).strict();
/** `of`: the record it changes, with how that was, as answers. */
export const saveDraft = z
  .object({
    form: z.uuid(),
    version,
    answers,
    of: z.object({ record: z.uuid(), base: answers }).strict().optional(),
  })
  .strict();
export const sendSubmission = z.object({ key: z.uuid(), version }).strict();
/** The step that was looked at, where several are asked at the same time. Left out, the first that is to be decided. */
const step = z.number().int().min(0).max(limits.steps).nullish();
export const decideSubmission = z
  .object({
    key: z.uuid(),
    version,
    step,
    decision: z.enum(['approve', 'send-back', 'decline']),
    word: z.string().max(limits.word),
  })
  .strict();
export const carryDraft = z.object({ version }).strict();
export const goOnto = z.object({ version, record: z.uuid() }).strict();
export const returnSubmission = z
  .object({
    key: z.uuid(),
    version,
    step,
    to: z.number().int().min(0).max(limits.steps),
    word: z.string().max(limits.word),
  })
  .strict();
export const handOver = z
  .object({ key: z.uuid(), version, step, to: z.uuid(), word: z.string().max(limits.word) })
  .strict();
/** The sheet as it was corrected; of it, what may be corrected is taken. */
export const correctSubmission = z
  .object({ key: z.uuid(), version, step, answers, word: z.string().max(limits.word) })
  .strict();
/** `place`: the answer it is about, its ids joined by slashes. Left out, all of it. */
export const remark = z
  .object({
    key: z.uuid(),
    word: z.string().max(limits.word),
    place: z
      .string()
      .regex(/^[\w-]{1,60}(\/[\w-]{1,60}){0,2}$/)
      .nullish(),
  })
  .strict();
export const withdrawSubmission = z.object({ key: z.uuid(), version }).strict();

/** What the filter of a lookup reads, as it is answered now. */
const given = z
  .record(
    z.string().regex(/^[\w-]{1,60}$/),
    z.union([z.string().max(limits.longText * 2), z.boolean(), z.null()]),
  )
  .optional();
/** In which submission a lookup is asked: none yet, or none at all, because its form is rehearsed as it is designed. */
const asked = z.union([z.uuid(), z.literal('rehearsal')]).nullable();
export const searchLookup = z
  .object({
    q: z.string().max(limits.label).default(''),
    /** One record alone, whatever fits. */
    id: z.uuid().optional(),
    submission: asked,
    given,
  })
  .strict();
export const eachOfLookup = z.object({ submission: asked, given }).strict();
export const nameLookup = z
  .object({
    texts: z.array(z.string().max(limits.shortText)).max(limits.rows),
    submission: asked,
    given,
  })
  .strict();
/** Which records of a table: those in which every word is seen, and of which a condition in FEEL holds. */
const which = {
  find: z.string().max(limits.label).default(''),
  where: z.string().max(4_000).default(''),
};
/** `about=yes`: from a few of them, at once. */
export const facetsOfRecords = z
  .object({
    ...which,
    about: z
      .enum(['yes', 'no'])
      .default('no')
      .transform((said) => said === 'yes'),
  })
  .strict();

/** In which order: by places of the table, `-` before those that go down. */
const order = { sort: z.string().max(400).default('-number') };
/** What is shown, as places divided by commas; empty for the columns of the table. */
const columns = z.string().max(8_000).default('');
export const orderOfRecords = z.object({ ...order, ...which }).strict();

/**
 * Records of a table in an order: the first of them, or those after or before one. `of`: only those that
 * refer to this record `via` a column, or are rows of it.
 */
export const pageOfRecords = z
  .object({
    ...order,
    columns,
    after: z.uuid().optional(),
    before: z.uuid().optional(),
    /** The value of what is sorted by from which on they are wanted. */
    at: z.string().max(limits.label).optional(),
    of: z.uuid().optional(),
    via: z.string().max(40).default('rows'),
    ...which,
  })
  .strict();

/** Records put together by a place, or what all of them come to. */
export const groupsOfRecords = z
  .object({
    ...which,
    of: z.uuid().optional(),
    via: z.string().max(40).default('rows'),
    by: z.string().max(200).default(''),
  })
  .strict();

/** A table as a file: all of it, or as it is shown. */
export const exportAs = z
  .object({
    as: z.enum(['csv', 'xlsx', 'json', 'package', 'sql']),
    shown: z.literal('yes').optional(),
    ...order,
    columns,
    ...which,
  })
  .strict();

/** The topics a page may listen to besides what concerns the person. */
export const liveTopics = z.object({ topics: z.string().max(1_000).default('') }).strict();
export const liveTopic = z
  .string()
  .regex(/^(form|table|submission|import|change):[0-9a-f-]{36}$|^(forms|lists)$/);
export const noQuery = z.object({}).strict();
