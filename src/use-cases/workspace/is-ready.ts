import { reachesDatabase } from '../../data/connect';

/** Long enough for a busy moment; whoever asks is a balancer or a page that waits. */
const LONGEST_MS = 1_500;

export const isReady = (): Promise<boolean> =>
  Promise.race([
    reachesDatabase(),
    new Promise<false>((resolve) => setTimeout(() => resolve(false), LONGEST_MS).unref()),
  ]);
