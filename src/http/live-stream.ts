import type { APIContext } from 'astro';
import { followLive } from '../use-cases/follow-live';
import { contextOf } from './endpoint';
import { logFault } from '../use-cases/log-fault';
import { problem } from './problem';

/** Below the usual half minute after which proxies close a silent connection. */
const HEARTBEAT_MS = 20_000;

/** Server-sent events: one `changed` per topic that something happened in; the page asks anew for what it shows. */
export async function liveStream(api: APIContext, topics: readonly string[]): Promise<Response> {
  const context = contextOf(api);
  if (context === null) return problem({ kind: 'forbidden', why: 'sign-in' });
  const text = new TextEncoder();
  let stop: (() => void) | null = null;
  let left = false;
  const leave = () => {
    left = true;
    stop?.();
  };
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      const say = (words: string) => {
        if (!left) controller.enqueue(text.encode(words));
      };
      const followed = await followLive(context, topics, (topic) =>
        say(`event: changed\ndata: ${JSON.stringify({ topic })}\n\n`),
      ).catch((error: unknown) => {
        logFault(error, '/api/live');
        return null;
      });
      if (!followed?.ok) return controller.close();
      const beat = setInterval(() => say(': still here\n\n'), HEARTBEAT_MS);
      stop = () => {
        clearInterval(beat);
        followed.value();
      };
      if (left) stop();
      say('retry: 2000\n\n');
    },
    cancel: leave,
  });
  api.request.signal.addEventListener('abort', leave);
  return new Response(body, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  });
}
