import { uuidFrom } from '../src/core/kernel/ids';

/** mulberry32: small, fast and the same on every machine, so that the sample world is always one world. */
export function seeded(seed: number): Random {
  let state = seed;
  const next = () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    next,
    whole: (least, most) => least + Math.floor(next() * (most - least + 1)),
    pick: (list) => list[Math.floor(next() * list.length)] as (typeof list)[number],
    chance: (share) => next() < share,
    id: (ms) =>
      uuidFrom(
        ms,
        Uint8Array.from({ length: 16 }, () => Math.floor(next() * 256)),
      ),
  };
}

export interface Random {
  next(): number;
  whole(least: number, most: number): number;
  pick<T>(list: readonly T[]): T;
  chance(share: number): boolean;
  /** A version 7 UUID of the given moment. */
  id(ms: number): string;
}
