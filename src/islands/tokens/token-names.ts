import type { TokensData } from '../../contract/tokens';
import type { Names } from '../../core/wording/token-sentence';

/** What tables and forms are called, by their ids. */
export const namesIn = ({ tables, forms }: TokensData): Names =>
  new Map([...tables, ...forms].map(({ id, label }) => [id, label]));
