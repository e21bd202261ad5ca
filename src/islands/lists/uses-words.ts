import type { ListUses } from '../../contract/choice-lists';

/** Who takes choices from a list, in one line. */
export function usesWords({ columns, forms }: ListUses): string {
  const hidden = columns.filter(({ table }) => table === null).length;
  const named = columns.flatMap(({ table, column }) => (table === null ? [] : [`${column} in ${table}`]));
  const all = [
    ...named,
    ...(hidden === 0 ? [] : [`${hidden === 1 ? 'a column' : `${hidden} columns`} of tables you do not see`]),
    ...forms.map(({ title, live }) => `the form ${title}${live ? '' : ', in its draft'}`),
  ];
  return all.length === 0 ? 'Used by nothing yet' : `Used by ${all.join(', ')}`;
}
