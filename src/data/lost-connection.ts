import { databaseFault } from './field-issues';

/** What Node says of a socket that is gone or was never there. */
const OF_THE_SOCKET = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  'EHOSTUNREACH',
]);
/** What the driver says of a connection that ended under it, or that it could not get. It has no codes for these. */
const OF_THE_DRIVER =
  /^(Connection terminated|Client has encountered a connection error|timeout exceeded when trying to connect|Client was closed)/;

/**
 * Whether our own database was lost, or could not be reached. A source outside that cannot be reached is another matter: PostgreSQL
 * then reports a common error, while what ends a connection of ours is always fatal.
 */
export function isLostConnection(error: unknown): boolean {
  for (let one = error; one instanceof Error; one = one.cause) {
    const { code, severity } = one as { code?: unknown; severity?: unknown };
    if (severity === 'FATAL' || severity === 'PANIC' || OF_THE_DRIVER.test(one.message)) return true;
    if (typeof code === 'string' && OF_THE_SOCKET.has(code)) return true;
    // Several addresses of one host were tried, and none answered.
    if (one instanceof AggregateError && one.errors.some(isLostConnection)) return true;
  }
  return false;
}

/** The disk or the memory of the database is full. */
export const isOutOfRoom = (error: unknown): boolean =>
  ['53100', '53200'].includes(databaseFault(error)?.code ?? '');

/** A statement that went on for longer than people wait. */
export const isTooSlow = (error: unknown): boolean => databaseFault(error)?.code === '57014';
