import { customAlphabet } from 'nanoid';
import { v7 } from 'uuid';

// What the rest of the core makes follows from what it is given; ids are made by those who call it, on the server and in the browser.

/** A version 7 UUID (RFC 9562), of now or of `ms` since 1970, so that ids sort by the time they were made. */
export const newUuid = (ms?: number): string => v7(ms === undefined ? undefined : { msecs: ms });

/** The same of given randomness, 16 bytes. */
export const uuidFrom = (ms: number, random: Uint8Array): string => v7({ msecs: ms, random });

const letters = customAlphabet('0123456789abcdefghijklmnopqrstuvwxyz', 12);

/** A short id that is also a FEEL name, for questions, checks and steps. */
export const newShortId = (): string => `q${letters()}`;

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
/** Whether it is written as the database writes a UUID. */
export const isUuid = (text: string): boolean => UUID.test(text);
