/** Milliseconds of one call, over `rounds` calls. */
export function perCall(rounds: number, call: () => unknown): number {
  for (let i = 0; i < Math.min(rounds, 500); i++) call();
  const began = performance.now();
  for (let i = 0; i < rounds; i++) call();
  return (performance.now() - began) / rounds;
}

export const middle = (list: readonly number[]): number =>
  [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
export const median = (times: number, measure: () => number): number =>
  middle(Array.from({ length: times }, measure));
