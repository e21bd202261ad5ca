import { z } from 'zod';
import { limits } from '../core/limits';

/** Which question a file answers. */
export const answering = z
  .object({ form: z.uuid(), question: z.string().max(40), submission: z.uuid().nullable() })
  .strict();

export const newFile = answering
  .extend({ name: z.string().max(1_000), size: z.number().int().min(1).max(Number.MAX_SAFE_INTEGER) })
  .strict();

export const someFiles = z.object({ ids: z.array(z.uuid()).max(limits.files * 25) }).strict();

/** The place of a piece in its file, from the address. */
export const pieceNumber = (params: Readonly<Record<string, string | undefined>>): number =>
  z.coerce.number().int().min(0).max(10_000).catch(-1).parse(params['piece']);
