import { createTransport } from 'nodemailer';
import type { Mail } from '../core/wording/notice-mail';

/** What became of a mail: taken, refused for good, or to be tried again later. */
export type Posted = 'sent' | 'refused' | 'later';

/** Takes mails to their people. */
export interface Mailer {
  /**
   * The same `id` for the same mail, also when it is sent again: a mailbox that has it keeps one. Throws
   * where the server cannot be reached.
   */
  readonly send: (to: { name: string; email: string }, mail: Mail, id: string) => Promise<Posted>;
  readonly close: () => void;
}

/** Whether whoever runs the machine has named a mail server. */
export const mailsHere = (env: NodeJS.ProcessEnv = process.env): boolean =>
  (env['SLATE_SMTP_URL'] ?? '') !== '';

/** Milliseconds until a mail server must have answered. */
const PATIENCE = 15_000;

/**
 * Any server that speaks SMTP, as whoever runs the machine has named it by `SLATE_SMTP_URL` (smtp:// or
 * smtps://, with a login where it asks for one) and `SLATE_MAIL_FROM`; null where they name none, and nobody
 * is mailed.
 */
export function mailer(env: NodeJS.ProcessEnv = process.env): Mailer | null {
  if (!mailsHere(env)) return null;
  const from = env['SLATE_MAIL_FROM'] ?? 'Tidy Slate <tidy-slate@localhost>';
  const transport = createTransport({
    ...serverOf(env['SLATE_SMTP_URL'] ?? ''),
    pool: true,
    maxConnections: 1,
    connectionTimeout: PATIENCE,
    greetingTimeout: PATIENCE,
    socketTimeout: PATIENCE,
  });
  return {
    send: async ({ name, email }, mail, id) => {
      try {
        await transport.sendMail({
          from,
          to: { name, address: email },
          ...mail,
          messageId: `<${id}@tidy-slate>`,
          // Nobody's answering machine need answer it (RFC 3834).
          headers: { 'Auto-Submitted': 'auto-generated' },
        });
        return 'sent';
      } catch (error) {
        const { responseCode, code } = error as { responseCode?: number; code?: string };
        // Our own login that is not taken is nothing about this mail.
        if (responseCode === undefined || code === 'EAUTH') throw error;
        // What is answered 5xx will not be taken later either (RFC 5321, 4.2.1).
        return responseCode >= 500 ? 'refused' : 'later';
      }
    },
    close: () => transport.close(),
  };
}

function serverOf(address: string): {
  host: string;
  port: number;
  secure: boolean;
  auth?: { user: string; pass: string };
} {
  const { protocol, hostname, port, username, password } = new URL(address);
  const secure = protocol === 'smtps:';
  return {
    host: hostname,
    port: port === '' ? (secure ? 465 : 587) : Number(port),
    secure,
    ...(username !== '' && {
      auth: { user: decodeURIComponent(username), pass: decodeURIComponent(password) },
    }),
  };
}
