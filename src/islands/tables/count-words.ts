import { digits } from '../../core/wording/numbers';
import { speak } from '../../core/wording/speak';

/** How many records a table has, in words. */
export const countWords = ({
  records,
  about,
}: {
  readonly records: number;
  readonly about: boolean;
}): string =>
  `${about ? speak`about ` : ''}${digits(records)} ${records === 1 ? speak`record` : speak`records`}`;
