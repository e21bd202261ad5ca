import pino from 'pino';

/** One line of JSON per event on standard output; secrets and answers are never among the fields. */
export const log = pino({ level: process.env['SLATE_LOG'] ?? 'info', base: null });
