import type { Values } from './column-value';
import type { RecordEdit } from './edit';

/** An edit as it is sent: numbers and places among rows come by themselves. */
export type EditInput = OfInput &
  (
    | {
        readonly t: 'add';
        /** The record whose row it is, by id. */
        readonly parent: string | null;
        readonly values: Values;
      }
    | {
        readonly t: 'change';
        readonly version: number;
        readonly before: Values;
        readonly values: Values;
      }
    | { readonly t: 'remove' | 'restore'; readonly version: number }
  );

interface OfInput {
  /** Its table, by id. */
  readonly table: string;
  readonly id: string;
}

export function asInput(edit: RecordEdit): EditInput {
  const { table, id } = edit;
  switch (edit.t) {
    case 'add':
      return { t: 'add', table, id, parent: edit.parent?.id ?? null, values: edit.values };
    case 'change':
      return { t: 'change', table, id, version: edit.version, before: edit.before, values: edit.values };
    default:
      return { t: edit.t, table, id, version: edit.version };
  }
}
