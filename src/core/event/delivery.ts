/** Why an address took nothing: nobody answered, it lies inside, it leads elsewhere, or it answered something else than yes. */
export const deliveryFaults = ['no-answer', 'inside', 'redirect', 'answer'] as const;
export type DeliveryFault = (typeof deliveryFaults)[number];

/** What became of telling an address something. */
export interface Delivered {
  /** What it answered; null where nothing was. */
  readonly status: number | null;
  readonly fault: DeliveryFault | null;
  readonly ms: number;
}

/**
 * Seconds until it is tried again, after each time it failed: the schedule that Standard Webhooks 1.0
 * proposes. Three days and a quarter in all.
 */
const AGAIN = [5, 300, 1_800, 7_200, 18_000, 36_000, 50_400, 72_000, 86_400] as const;

/** What comes after a try. */
export type Next =
  | { readonly t: 'on' }
  | { readonly t: 'again'; readonly at: Date }
  | { readonly t: 'stop'; readonly because: 'gone' | 'failing' };

/**
 * A yes goes on to the next event. Anything else is tried again later and later, up to a fifth of the wait
 * earlier or later so that not all who failed together come back together; after the last time, or when the
 * address says that it is gone for good, nothing more is told. `failed`: how often it failed before;
 * `chance`: 0 to 1.
 */
export function next({ status, fault }: Delivered, failed: number, now: Date, chance: number): Next {
  if (fault === null) return { t: 'on' };
  if (status === 410) return { t: 'stop', because: 'gone' };
  const wait = AGAIN[failed];
  if (wait === undefined) return { t: 'stop', because: 'failing' };
  return { t: 'again', at: new Date(now.getTime() + wait * 1_000 * (0.8 + 0.4 * chance)) };
}
