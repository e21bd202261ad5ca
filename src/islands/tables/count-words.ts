import { digits } from '../../core/wording/numbers';

/** How many records a table has, in words. */
export const countWords = ({
  records,
  about,
}: {
  readonly records: number;
  readonly about: boolean;
}): string => `${about ? 'about ' : ''}${digits(records)} ${records === 1 ? 'record' : 'records'}`;
