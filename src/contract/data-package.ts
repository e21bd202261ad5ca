import { z } from 'zod';
import { table } from './stored/table-design';

/**
 * What is read of the descriptor of a Data Package: the tables as they were designed, and where their rows
 * stand. Whatever else it says is for others.
 */
export const packageDescriptor = z.looseObject({
  resources: z
    .array(z.looseObject({ path: z.string().regex(/^data\/[a-z0-9_]{1,60}\.csv$/), slateTable: table }))
    .min(1)
    .max(500),
});
