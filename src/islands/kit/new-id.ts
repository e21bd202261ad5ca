import { shortId, uuidV7 } from '../../core/kernel/ids';

/** Ids the browser makes, so that sending something twice makes nothing twice. */
export const newShortId = (): string => shortId(crypto.getRandomValues(new Uint8Array(12)));
export const newUuid = (): string => uuidV7(Date.now(), crypto.getRandomValues(new Uint8Array(10)));
