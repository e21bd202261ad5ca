/**
 * Our own server leaves here, by the number it gives each request, how to break its connection: what stands
 * between passes nothing else on.
 */
const CUTS = Symbol.for('tidy-slate connections');

/** Breaks the connection of a request whose answer cannot be ended well. */
export function cutConnection(request: Request): void {
  const cuts = (globalThis as { [CUTS]?: ReadonlyMap<string, () => void> })[CUTS];
  cuts?.get(request.headers.get('x-slate-request') ?? '')?.();
}
