import type { HitPolicy } from '../rules/rules';
import { speak, spoken } from './speak';

/** How the rows that count are told, with the letter the standard has for it. */
export const hitWords = spoken(
  (): Readonly<Record<HitPolicy, { readonly label: string; readonly short: string }>> => ({
    U: { label: speak`The only row that fits counts (U)`, short: speak`the only row that fits counts` },
    A: {
      label: speak`Any row that fits counts, for they give the same (A)`,
      short: speak`any row that fits counts`,
    },
    P: { label: speak`The row that weighs most counts (P)`, short: speak`the row that weighs most counts` },
    F: { label: speak`The first row that fits counts (F)`, short: speak`the first row that fits counts` },
    R: {
      label: speak`All rows that fit count, in their order (R)`,
      short: speak`all rows that fit count, in order`,
    },
    C: { label: speak`All rows that fit count (C)`, short: speak`all rows that fit count` },
  }),
);
