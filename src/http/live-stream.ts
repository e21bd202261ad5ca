import type { APIContext } from 'astro';
import { tooMany } from '../core/kernel/refusal';
import { followLive, type Following } from '../use-cases/workspace/follow-live';
import { logFault, refusedBy } from '../use-cases/workspace/log-fault';
import { whoAsks } from '../use-cases/people/who-asks';
import { contextOf } from './endpoint';
import { problem } from './problem';

/** Below the usual half minute after which proxies close a silent connection. */
const HEARTBEAT_MS = 20_000;
/** Windows of one person that may listen at once, for each process. */
const MOST_STREAMS = 20;
/** Events that may wait for a browser that does not take them; then it is cut, and asks anew when it comes back. */
const MOST_WAITING = 100;

const TOGETHER_MS = 300;

const streams = new Map<string, number>();

function counted(person: string, by: number): number {
  const now = (streams.get(person) ?? 0) + by;
  if (now > 0) streams.set(person, now);
  else streams.delete(person);
  return now;
}

/** Server-sent events: one `changed` per topic that something happened in; the page asks anew for what it shows. */
export function liveStream(api: APIContext, topics: readonly string[]): Response {
  const context = contextOf(api);
  if (context === null) return problem({ kind: 'forbidden', why: 'sign-in' });
  const { id } = context.person;
  if (counted(id, 1) > MOST_STREAMS) {
    counted(id, -1);
    return problem(tooMany('streams', 30));
  }
  const text = new TextEncoder();
  let left = false;
  let end = (): void => undefined;
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      let following: Following | null = null;
      let beat: ReturnType<typeof setInterval> | undefined;
      end = () => {
        if (left) return;
        left = true;
        counted(id, -1);
        clearInterval(beat);
        following?.stop();
        try {
          controller.close();
        } catch {
          // The browser has gone already.
        }
      };
      const say = (words: string): void => {
        if (left) return;
        if ((controller.desiredSize ?? 0) < -MOST_WAITING) return end();
        controller.enqueue(text.encode(words));
      };
      // Whoever has been signed out, or has lost a right, ceases to be told: at the next beat, or at once when that is what was told.
      const isStill = async (): Promise<boolean> => (await whoAsks(api.request.headers))?.id === id;
      const look = async (): Promise<void> => {
        if (!(await isStill())) return end();
        await following?.look();
      };
      const fault = (error: unknown): void => {
        if (refusedBy(error) === null) logFault(error, '/api/live');
        end();
      };
      let soon: ReturnType<typeof setTimeout> | undefined;
      const told = (topic: string): void => {
        // Many rights may change at once; they are looked at together.
        if (topic === 'rights')
          soon ??= setTimeout(() => {
            soon = undefined;
            void look().catch(fault);
          }, TOGETHER_MS);
        else say(`event: changed\ndata: ${JSON.stringify({ topic })}\n\n`);
      };
      void followLive(context, topics, told).then((found) => {
        if (!found.ok) return end();
        following = found.value;
        if (left) return following.stop();
        beat = setInterval(() => {
          say(': still here\n\n');
          void look().catch(fault);
        }, HEARTBEAT_MS);
        say('retry: 2000\n\n');
      }, fault);
    },
    cancel: () => end(),
  });
  api.request.signal.addEventListener('abort', () => end());
  return new Response(body, {
    headers: {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    },
  });
}
