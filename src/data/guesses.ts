import type { ZxcvbnFactory } from '@zxcvbn-ts/core';

/** Characters that are looked at: what is hard to guess by then is hard, and each more makes it slower (200 took a quarter of a second). */
const LOOKED_AT = 64;

let kept: Promise<ZxcvbnFactory> | null = null;

/** Some 50 000 passwords that leaked most often, and what people make of them: read when the first password is chosen. */
async function made(): Promise<ZxcvbnFactory> {
  const [core, common] = await Promise.all([import('@zxcvbn-ts/core'), import('@zxcvbn-ts/language-common')]);
  return new core.ZxcvbnFactory({ dictionary: common.dictionary, graphs: common.adjacencyGraphs });
}

/** How many guesses find a password, as a power of ten; `known`: words that anybody would try first for this person. */
export async function guessesOf(known: readonly string[]): Promise<(password: string) => number> {
  kept ??= made();
  const estimate = await kept;
  // The whole, what stands before the sign of an address, and each word of it.
  const words = known
    .flatMap((one) => [one, one.split('@')[0] ?? '', ...one.split(/[^\p{L}\p{N}]+/u)])
    .filter((one) => one.length > 2);
  return (password) => estimate.check(password.slice(0, LOOKED_AT), words).guessesLog10;
}
