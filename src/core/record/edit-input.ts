import type { Values } from './column-value';
import type { RecordEdit } from './edit';

/** An edit as it is sent: the table is said beside it, and numbers and places among rows come by themselves. */
export type EditInput =
  | {
      readonly t: 'add';
      readonly id: string;
      /** The record whose row it is, by id. */
      readonly parent: string | null;
      readonly values: Values;
    }
  | {
      readonly t: 'change';
      readonly id: string;
      readonly version: number;
      readonly before: Values;
      readonly values: Values;
    }
  | { readonly t: 'remove' | 'restore'; readonly id: string; readonly version: number };

export function asInput(edit: RecordEdit): EditInput {
  const { id } = edit;
  switch (edit.t) {
    case 'add':
      return { t: 'add', id, parent: edit.parent?.id ?? null, values: edit.values };
    case 'change':
      return { t: 'change', id, version: edit.version, before: edit.before, values: edit.values };
    default:
      return { t: edit.t, id, version: edit.version };
  }
}
