import type { Column, Table } from './model';

/** Columns that tell records apart: those that must be different in each. */
export const keyColumns = (table: Table): Column[] =>
  table.columns.filter(
    ({ unique, kind }) => unique && (kind === 'text' || kind === 'whole' || kind === 'e-mail'),
  );
