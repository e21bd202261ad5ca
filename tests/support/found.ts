import type { FoundColumn, FoundTable } from '../../src/core/link/found-table';

/** Columns and tables as they are found in another database. */
export const foundColumn = (name: string, type: string, more: Partial<FoundColumn> = {}): FoundColumn => ({
  name,
  type,
  domain: null,
  labels: null,
  required: false,
  preset: null,
  made: null,
  generated: false,
  comment: '',
  maySee: true,
  mayAdd: true,
  mayChange: true,
  ...more,
});
export const foundTable = (
  name: string,
  columns: readonly FoundColumn[],
  more: Partial<FoundTable> = {},
): FoundTable => ({
  schema: 'public',
  name,
  comment: '',
  isView: false,
  records: null,
  columns,
  primaryKey: [columns[0]?.name ?? ''],
  uniques: [],
  references: [],
  rules: [],
  mayAdd: true,
  mayChange: true,
  ...more,
});
