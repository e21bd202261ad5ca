import { sql } from 'drizzle-orm';
import { check, index, integer, jsonb, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import type { Decisions } from '../../../core/import/decisions';
import type { Detection } from '../../../core/import/detection';
import type {
  ImportFault,
  ImportFile,
  ImportProgress,
  ImportResult,
  ImportState,
  Samples,
  Trial,
} from '../../../core/import/import';
import type { LinkMapping, Refreshed, RefreshEvery } from '../../../core/link/link';
import type { SourceAddress, SourceFault } from '../../../core/link/source';

import { slate, bytea, at, made } from './base';
import { person } from './people';
import { designedTable } from './tables';

/** Sheets on their way into tables: what was brought, what was detected, what was decided, and what came of it. */
export const tableImport = slate.table(
  'table_import',
  {
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    state: text('state').$type<ImportState>().notNull(),
    files: jsonb('files').$type<readonly ImportFile[]>().notNull().default([]),
    detection: jsonb('detection').$type<Detection>(),
    samples: jsonb('samples').$type<Samples>(),
    decisions: jsonb('decisions').$type<Decisions>().notNull(),
    progress: jsonb('progress').$type<ImportProgress>(),
    fault: jsonb('fault').$type<ImportFault>(),
    result: jsonb('result').$type<ImportResult>(),
    trial: jsonb('trial').$type<Trial>(),
    /** By sheet: the rows that were refused last, as CSV, to be fixed and brought again. */
    refusedRows: jsonb('refused_rows').$type<Readonly<Record<string, string>>>(),
    version: integer('version').notNull().default(1),
    ...made,
  },
  (t) => [
    index('table_import_person').on(t.personId, t.updatedAt),
    check(
      'table_import_state',
      sql`${t.state} IN ('uploading', 'reading', 'proposed', 'trying', 'keeping', 'kept', 'refused', 'failed', 'cancelled')`,
    ),
  ],
);

/** The files of an import in pieces, so that any process can read them; dropped when it has ended. */
export const importPiece = slate.table(
  'import_piece',
  {
    importId: uuid('import_id')
      .notNull()
      .references(() => tableImport.id, { onDelete: 'cascade' }),
    file: integer('file').notNull(),
    piece: integer('piece').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (t) => [primaryKey({ columns: [t.importId, t.file, t.piece] })],
);

/** Places outside whose records are linked. */
export const source = slate.table('source', {
  id: uuid('id').primaryKey(),
  label: text('label').notNull(),
  address: jsonb('address').$type<SourceAddress>().notNull(),
  /** Encrypted with the key of the workspace, which is not in the database. */
  secret: bytea('secret'),
  version: integer('version').notNull().default(1),
  /** Times in a row it did not answer, and until when nobody waits for it any more. */
  failures: integer('failures').notNull().default(0),
  silentUntil: at('silent_until'),
  ...made,
});

/** Tables whose records come from a source, and how fresh they are. */
export const link = slate.table(
  'link',
  {
    tableId: uuid('table_id')
      .primaryKey()
      .references(() => designedTable.id, { onDelete: 'cascade' }),
    sourceId: uuid('source_id')
      .notNull()
      .references(() => source.id),
    mapping: jsonb('mapping').$type<LinkMapping>().notNull(),
    /** Minutes. */
    every: integer('every').$type<RefreshEvery>().notNull(),
    refreshedAt: at('refreshed_at'),
    triedAt: at('tried_at'),
    fault: jsonb('fault').$type<SourceFault | null>(),
    refreshed: jsonb('refreshed').$type<Refreshed | null>(),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (t) => [index('link_source').on(t.sourceId)],
);
