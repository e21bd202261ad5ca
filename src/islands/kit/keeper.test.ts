import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fail, ok } from '../../core/kernel/result';
import { Keeper, type Keeping, type Unsent } from './keeper';
import { takenUp } from './taken-up';

/** A server as ours is: one value with a version; a repeat is known by its value, anything else on an old version is refused. */
class Server {
  value = 'first';
  version = 1;
  refusals = 0;

  put(version: number, value: string) {
    if (version === this.version) {
      this.value = value;
      return ok({ version: ++this.version });
    }
    if (value === this.value) return ok({ version: this.version });
    this.refusals++;
    return fail({ type: '', title: 'changed in another window', status: 409, code: 'draft-changed' });
  }
}

type Fate = 'arrives' | 'request lost' | 'answer lost';

/** One browser page on a slow and unreliable line; nothing happens by itself, so that every order of things can be tried. */
class Page {
  readonly keeper: Keeper<string>;
  keeping: Keeping = { t: 'kept', at: null };
  private timer: (() => void) | null = null;
  private readonly waiting: { answer: (fate: Fate) => void }[] = [];
  closed = false;

  constructor(
    private readonly server: Server,
    readonly device: { unsent: Unsent<string> | null },
  ) {
    const up = takenUp(device.unsent, { value: server.value, version: server.version });
    if (up.t === 'both') throw new Error('one person on one device never meets themselves');
    const unsent = up.t === 'unsent' ? up.unsent : null;
    device.unsent = unsent;
    this.keeper = new Keeper<string>(
      { value: server.value, version: server.version, keeping: this.keeping, unsent, keepAfter: 700 },
      {
        send: (version, value) => this.request(version, value),
        after: (_, work) => {
          this.timer = work;
          return () => (this.timer = null);
        },
        told: (keeping) => (this.keeping = keeping),
        store: (left) => {
          if (!this.closed) this.device.unsent = left;
        },
        now: () => 'now',
      },
    );
    this.keeper.begin();
  }

  get shown(): string {
    return this.device.unsent?.value ?? this.server.value;
  }

  private request(version: number, value: string): Promise<ReturnType<Server['put']>> {
    return new Promise((done, lost) => {
      this.waiting.push({
        answer: (fate) => {
          if (fate === 'request lost') return lost(new Error('lost'));
          const answer = this.server.put(version, value);
          if (fate === 'answer lost' || this.closed) return lost(new Error('lost'));
          done(answer);
        },
      });
    });
  }

  async answer(fate: Fate): Promise<void> {
    this.waiting.shift()?.answer(fate);
    await settle();
  }

  get flying(): number {
    return this.waiting.length;
  }

  async tick(): Promise<void> {
    const work = this.timer;
    this.timer = null;
    work?.();
    await settle();
  }

  get hasTimer(): boolean {
    return this.timer !== null;
  }

  close(): void {
    this.closed = true;
    this.keeper.stop();
  }
}

const settle = async (): Promise<void> => {
  for (let i = 0; i < 12; i++) await Promise.resolve();
};

const step = fc.oneof(
  { weight: 4, arbitrary: fc.constant({ t: 'edit' as const }) },
  { weight: 3, arbitrary: fc.constant({ t: 'tick' as const }) },
  { weight: 2, arbitrary: fc.constant({ t: 'flush' as const }) },
  {
    weight: 5,
    arbitrary: fc.record({
      t: fc.constant('answer' as const),
      fate: fc.constantFrom<Fate>('arrives', 'arrives', 'request lost', 'answer lost'),
    }),
  },
  { weight: 1, arbitrary: fc.constant({ t: 'reload' as const }) },
  // The page closes while a request is on its way; it arrives, and nobody hears the answer.
  { weight: 1, arbitrary: fc.constant({ t: 'reload, and what flew arrives' as const }) },
);

describe('keeping, whatever the line does', () => {
  it('loses no edit, takes itself for nobody else, and says “all kept” only when it is', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 40 }), async (steps) => {
        const [server, device] = [new Server(), { unsent: null as Unsent<string> | null }];
        let page = new Page(server, device);
        let [typed, edits] = ['first', 0];
        const reload = async (arrives: boolean) => {
          page.close();
          if (arrives) await page.answer('answer lost');
          page = new Page(server, device);
          await settle();
        };
        for (const one of steps) {
          if (one.t === 'edit') page.keeper.edited((typed = `edit ${++edits}`));
          else if (one.t === 'tick') await page.tick();
          else if (one.t === 'answer') await page.answer(one.fate);
          else if (one.t === 'flush') {
            const at = page.keeper;
            void at.flush().then((done) => {
              // What is sent after this is what the server holds.
              if (done && at === page.keeper && !page.keeper.isBehind) expect(server.value).toBe(typed);
            });
            await settle();
          } else await reload(one.t !== 'reload');
          expect(page.shown).toBe(typed);
          if (page.keeping.t === 'kept' && !page.keeper.isBehind) expect(server.value).toBe(typed);
          expect(page.flying).toBeLessThanOrEqual(1);
        }
        // The line holds from here on: everything comes to rest by itself.
        for (let i = 0; i < 20 && (page.flying > 0 || page.hasTimer); i++) {
          await page.answer('arrives');
          await page.tick();
        }
        expect(server.value).toBe(typed);
        expect(server.refusals).toBe(0);
        expect(device.unsent).toBeNull();
      }),
      { numRuns: 600 },
    );
  });

  it('a flush that begins while a save flies waits for the edit made meanwhile, too', async () => {
    const server = new Server();
    const page = new Page(server, { unsent: null });
    page.keeper.edited('7');
    await page.tick();
    page.keeper.edited('8');
    await page.tick();
    let flushed: boolean | null = null;
    void page.keeper.flush().then((done) => (flushed = done));
    await page.answer('arrives');
    expect([flushed, server.value]).toEqual([null, '7']);
    await page.answer('arrives');
    expect([flushed, server.value, server.version]).toEqual([true, '8', 3]);
  });

  it('two that wait send one version, once', async () => {
    const server = new Server();
    const page = new Page(server, { unsent: null });
    page.keeper.edited('7');
    const both = Promise.all([page.keeper.flush(), page.keeper.flush()]);
    await page.answer('arrives');
    expect(await both).toEqual([true, true]);
    expect([server.version, server.refusals]).toEqual([2, 0]);
  });
});

describe('what is taken up after a reload', () => {
  const server = { value: 'on the server', version: 5 };
  it.each<[string, Unsent<string> | null, string]>([
    ['nothing', null, 'server'],
    ['what was drawn on what is there', { value: 'mine', version: 5, flying: null }, 'unsent'],
    ['what flew and arrived', { value: 'mine', version: 4, flying: 'on the server' }, 'unsent'],
    ['what is there already', { value: 'on the server', version: 2, flying: null }, 'server'],
    ['what somebody changed meanwhile', { value: 'mine', version: 4, flying: null }, 'both'],
    ['what flew, and somebody changed after it', { value: 'mine', version: 3, flying: 'older' }, 'both'],
  ])('%s', (_, unsent, t) => expect(takenUp(unsent, server).t).toBe(t));
});
