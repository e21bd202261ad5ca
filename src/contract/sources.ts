import { z } from 'zod';
import type { LeftBehind } from '../core/link/carry-column';
import type { FoundTable } from '../core/link/found-table';
import { refreshChoices, type RefreshEvery } from '../core/link/link';
import type { LinkedThere } from '../core/link/plan-link';
import type { SourceAddress, SourceFault } from '../core/link/source';
import { limits } from '../core/limits';
import type { Table } from '../core/table/model';

const label = z.string().trim().min(1).max(limits.label);
const name = z.string().trim().min(1).max(200);

const address = z.discriminatedUnion('t', [
  z
    .object({
      t: z.literal('database'),
      host: name.regex(/^[A-Za-z0-9.:_-]+$/),
      port: z.number().int().min(1).max(65_535),
      database: name.max(63),
      user: name.max(63),
    })
    .strict(),
  z
    .object({
      t: z.literal('list'),
      url: z.string().trim().max(2_000),
      header: z
        .string()
        .trim()
        .max(100)
        .regex(/^[A-Za-z0-9-]*$/),
    })
    .strict(),
]);

const version = z.number().int().min(0).max(2_000_000_000);
/** Without a secret the one that is kept stays. `version` is 0 for a new source. */
export const keepSource = z
  .object({ version, label, address, secret: z.string().max(2_000).nullable() })
  .strict();
const every = z.union(refreshChoices.map((minutes) => z.literal(minutes)));
/** The tables by `schema.table`; of a list, nothing. */
export const linkTables = z.object({ tables: z.array(z.string().max(200)).max(100), every }).strict();
/** A linked table, by `schema.table`, that takes up what it has become there. */
export const followSource = z.object({ table: z.string().max(200) }).strict();
export const changeLink = z.object({ every }).strict();

export interface SourcesData {
  readonly sources: readonly {
    readonly id: string;
    readonly label: string;
    readonly address: SourceAddress;
    readonly tables: readonly string[];
    readonly failing: number;
  }[];
  readonly mayAdminister: boolean;
}

export interface SourceData {
  readonly id: string;
  readonly label: string;
  readonly address: SourceAddress;
  /** A secret is kept; it is never shown. */
  readonly hasSecret: boolean;
  readonly version: number;
  readonly mayAdminister: boolean;
  /** Tables that are linked to it, as they are here. */
  readonly linked: readonly {
    readonly key: string;
    readonly label: string;
    readonly every: RefreshEvery;
    readonly name: string;
  }[];
}

/** What a look into a source found. */
export type SourceLook =
  | { readonly t: 'failed'; readonly fault: SourceFault }
  | {
      readonly t: 'tables';
      readonly found: readonly FoundTable[];
      readonly linked: readonly LinkedThere[];
      readonly tables: readonly Table[];
    }
  /** The first entries, as texts in the order of the table's columns. Null when nothing tells entries apart. */
  | {
      readonly t: 'list';
      readonly entries: number;
      readonly plan: {
        readonly table: Table;
        readonly key: string;
        readonly left: readonly LeftBehind[];
        readonly rows: readonly (readonly string[])[];
      } | null;
    };
