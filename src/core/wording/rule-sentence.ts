import type { HitPolicy } from '../rules/rules';

/** How the rows that count are told, with the letter the standard has for it. */
export const hitWords: Readonly<Record<HitPolicy, { readonly label: string; readonly short: string }>> = {
  U: { label: 'The only row that fits counts (U)', short: 'the only row that fits counts' },
  A: { label: 'Any row that fits counts, for they give the same (A)', short: 'any row that fits counts' },
  P: { label: 'The row that weighs most counts (P)', short: 'the row that weighs most counts' },
  F: { label: 'The first row that fits counts (F)', short: 'the first row that fits counts' },
  R: { label: 'All rows that fit count, in their order (R)', short: 'all rows that fit count, in order' },
  C: { label: 'All rows that fit count (C)', short: 'all rows that fit count' },
};
