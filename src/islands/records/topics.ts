import type { TableAtWork } from '../../contract/answers-from-server';

/** What is listened to: the table, and those whose records are shown with its own. */
export const topicsOf = ({ table, related }: TableAtWork): string[] => [
  ...new Set([table.id, ...related.map((one) => one.table.id)].map((id) => `table:${id}`)),
];
