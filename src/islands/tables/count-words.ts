/** How many records a table has, in words. */
export const countWords = ({
  records,
  about,
}: {
  readonly records: number;
  readonly about: boolean;
}): string =>
  `${about ? 'about ' : ''}${records.toLocaleString('en-GB').replaceAll(',', '\u202f')} ${records === 1 ? 'record' : 'records'}`;
