import http, { type IncomingMessage } from 'node:http';
import https from 'node:https';

/** An address as it was looked at, so that a name that means something else a moment later leads nowhere else. */
interface At {
  readonly address: string;
  readonly family: number;
}

interface Sent {
  readonly method: 'GET' | 'POST';
  readonly headers: Readonly<Record<string, string>>;
  readonly body?: string;
  /** Milliseconds for the whole of it, its answer with it. */
  readonly patience: number;
}

/** Asks an address outside, at the place that was looked at. Nobody is led elsewhere by what is answered. Throws where nobody answers. */
export function pinnedRequest(
  url: string,
  { address, family }: At,
  { method, headers, body, patience }: Sent,
): Promise<IncomingMessage> {
  const { request } = url.startsWith('https:') ? https : http;
  return new Promise((answered, failed) => {
    const sent = request(url, {
      method,
      headers,
      signal: AbortSignal.timeout(patience),
      lookup: (_, { all }, found) =>
        all === true ? found(null, [{ address, family }]) : found(null, address, family),
    });
    sent.once('response', answered);
    sent.once('error', failed);
    sent.end(body);
  });
}
