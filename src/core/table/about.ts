import type { Column } from './model';

/** What a column holds, in its owner's words, with an example. */
export function aboutColumn({ description, example }: Pick<Column, 'description' | 'example'>): string {
  if (example === '') return description;
  const words = description.trim();
  return `${words}${words === '' ? '' : /[.!?]$/.test(words) ? ' ' : '. '}For example ${example}`;
}
