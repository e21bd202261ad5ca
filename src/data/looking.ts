import { AsyncLocalStorage } from 'node:async_hooks';

/**
 * Whether a request comes from an administrator who looks as somebody else. All it does to the database is
 * undone when it has been answered, so that nothing can be done in another's name, whatever use case is
 * asked.
 */
const looking = new AsyncLocalStorage<true>();

export const whileLooking = <T>(work: () => T): T => looking.run(true, work);

export const isLooking = (): boolean => looking.getStore() === true;
