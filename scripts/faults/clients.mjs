import { randomUUID } from 'node:crypto';

/** Somebody signed in, who asks as a browser does. */
export async function signedIn(origin, email) {
  const response = await fetch(`${origin}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: `${email}@quillmere.example`, password: 'quillmere-garden' }),
  });
  if (!response.ok) throw new Error(`${email} could not sign in: ${response.status}`);
  const cookie = response.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ');
  return async (method, path, body) => {
    const answer = await fetch(`${origin}${path}`, {
      method,
      headers: { cookie, 'content-type': 'application/json' },
      ...(body !== undefined && { body: JSON.stringify(body) }),
      // On a machine that is busy with other tests, what costs much takes long; how long is no matter here.
      signal: AbortSignal.timeout(90_000),
    });
    const text = await answer.text();
    return { status: answer.status, body: text.startsWith('{') ? JSON.parse(text) : text };
  };
}

const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Clients that send one submission after another, each until it is acknowledged: what got no answer, or was told to come back, is sent again with the
 * same id and key, as the page does it. `acknowledged` is what must be there in the end.
 */
export class Senders {
  acknowledged = new Map();
  attempts = 0;
  again = 0;
  refused = [];
  #running = true;
  #done = [];

  constructor(ask, form, answers, many) {
    this.#done = Array.from({ length: many }, () => this.#loop(ask, form, answers));
  }

  async #loop(ask, form, answers) {
    while (this.#running) {
      const [id, key] = [randomUUID(), randomUUID()];
      const draft = await this.#until(() =>
        ask('PUT', `/api/submissions/${id}`, { form, version: 0, answers: answers() }),
      );
      const sent =
        draft &&
        (await this.#until(() =>
          ask('POST', `/api/submissions/${id}/send`, { key, version: draft.version }),
        ));
      if (sent) this.acknowledged.set(id, sent.number);
    }
  }

  /** Null when it was refused for good, or the time was over before an answer came. */
  async #until(request) {
    for (let i = 0; i < 400; i++) {
      this.attempts++;
      const answer = await request().catch(() => null);
      if (answer?.status === 200) return answer.body;
      if (answer !== null && answer.status < 500 && answer.status !== 409 && answer.status !== 429) {
        this.refused.push(`${answer.status} ${JSON.stringify(answer.body).slice(0, 200)}`);
        return null;
      }
      this.again++;
      await pause(250);
      if (!this.#running && i > 60) return null;
    }
    return null;
  }

  async stop() {
    this.#running = false;
    await Promise.all(this.#done);
  }
}

/** Somebody who only reads: how long their page takes tells what a fault costs the others. */
export class Neighbour {
  times = [];
  statuses = new Map();
  #running = true;
  #done;

  constructor(ask) {
    this.#done = this.#loop(ask);
  }

  async #loop(ask) {
    while (this.#running) {
      const began = performance.now();
      const status = await ask('GET', '/api/home').then(
        (answer) => answer.status,
        () => 'no answer',
      );
      this.times.push(performance.now() - began);
      this.statuses.set(status, (this.statuses.get(status) ?? 0) + 1);
      await pause(100);
    }
  }

  async stop() {
    this.#running = false;
    await this.#done;
    const sorted = [...this.times].sort((a, b) => a - b);
    const at = (part) =>
      Math.round(sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? 0);
    const others = [...this.statuses]
      .filter(([status]) => status !== 200)
      .map(([status, n]) => `${n} x ${status}`);
    return { p50: at(0.5), p95: at(0.95), most: at(1), asked: sorted.length, others: others.join(', ') };
  }
}
