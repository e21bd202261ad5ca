import type { ListUses } from '../../contract/choice-lists';
import { speak } from '../../core/wording/speak';

/** Who takes choices from a list, in one line. */
export function usesWords({ columns, forms }: ListUses): string {
  const hidden = columns.filter(({ table }) => table === null).length;
  const named = columns.flatMap(({ table, column }) =>
    table === null ? [] : [speak`${column} in ${table}`],
  );
  const all = [
    ...named,
    ...(hidden === 0
      ? []
      : [speak`${hidden === 1 ? 'a column' : speak`${hidden} columns`} of tables you do not see`]),
    ...forms.map(({ title, live }) => speak`the form ${title}${live ? '' : speak`, in its draft`}`),
  ];
  return all.length === 0 ? speak`Used by nothing yet` : speak`Used by ${all.join(', ')}`;
}
