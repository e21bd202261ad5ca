import { z } from 'zod';
import type { DeliveryFault } from '../core/event/delivery';
import { eventKinds, type EventKind } from '../core/event/event';
import { limits } from '../core/limits';

const ids = z.array(z.uuid()).max(500);

/** An address outside that is told what happens; `version` is 0 for a new one. */
export const keepAddress = z
  .object({
    version: z.number().int().min(0).max(2_000_000_000),
    label: z.string().trim().min(1).max(limits.label),
    url: z.string().trim().min(1).max(2_000),
    person: z.uuid(),
    tables: ids,
    forms: ids,
    kinds: z.array(z.enum(eventKinds)).max(eventKinds.length),
  })
  .strict();
export type AddressInput = z.infer<typeof keepAddress>;

const place = z.number().int().min(1).max(Number.MAX_SAFE_INTEGER);
/** From an event on; from where it stands for null. */
export const resumeAddress = z.object({ from: place.nullable() }).strict();
export const tellAgain = z.object({ position: place }).strict();
export const nothingSaid = z.object({}).strict();

/** What a program asks of the feed: the names of the HTTP feeds convention. */
export const feedQuery = z
  .object({
    lastEventId: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER).optional(),
    limit: z.coerce.number().int().min(1).max(limits.pageSize).default(50),
  })
  .strict();

/** Of a new address: by which what is told is signed. It is shown this once. */
export interface KeptAddress {
  readonly secret: string | null;
}

export interface DeliveryData {
  /** The event; null for one by which somebody tried the address. */
  readonly position: number | null;
  readonly kind: string;
  readonly subject: string;
  readonly status: number | null;
  readonly fault: DeliveryFault | null;
  readonly ms: number;
  readonly at: string;
}

export interface AddressData extends AddressInput {
  readonly id: string;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly state: 'on' | 'failing' | 'stopped';
  /** Why it was stopped by itself; null where somebody did it. */
  readonly because: 'gone' | 'failing' | 'left' | 'secret' | null;
  readonly failingSince: string | null;
  readonly nextAt: string | null;
  /** Places between what it was told last and the newest: not all of them need be for it. */
  readonly behind: number;
}

export interface EventsData {
  readonly addresses: readonly AddressData[];
  readonly me: string;
  readonly people: readonly { readonly id: string; readonly name: string; readonly place: string }[];
  readonly tables: readonly Named[];
  readonly forms: readonly Named[];
}

export interface DeliveriesData {
  /** The newest first. */
  readonly deliveries: readonly DeliveryData[];
}

/** What somebody sees, and so the most that may be told as they see it: ids of tables and forms. */
export interface SeenData {
  readonly tables: readonly string[];
  readonly forms: readonly string[];
}
export const seenAsked = z.object({ person: z.uuid() }).strict();

interface Named {
  readonly id: string;
  readonly label: string;
}
export type { EventKind };
