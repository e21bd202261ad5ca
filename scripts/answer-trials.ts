import { createInterface } from 'node:readline';
import { Temporal } from 'temporal-polyfill';
import { tryOut, type Trial } from '../src/core/expression/try-out';
import type { Issue } from '../src/core/kernel/issue';
import { workspaceZone, worldAt } from '../src/core/workspace';
import { issueSentence } from '../src/core/wording/issue-sentence';

/**
 * Tries expressions out: a line of JSON `{"expression", "types"?, "context"?}` on standard input gives a line each,
 * `{"value"}` or `{"refused": [{code, message, from, to}]}`.
 */
const world = worldAt(Temporal.Now.plainDateTimeISO(workspaceZone).toString({ smallestUnit: 'second' }));

for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
  if (line.trim() !== '') process.stdout.write(`${JSON.stringify(answer(line))}\n`);
}

function answer(line: string): object {
  const trial = asTrial(line);
  if (trial === null) return { refused: [{ code: 'malformed', message: 'Each line is JSON: {"expression": "1 + 1", "types": {}, "context": {}}', from: 0, to: 0 }] };
  const tried = tryOut(trial, world);
  if (!tried.ok) return refusal(tried.error);
  const value = tried.value.value();
  return value.ok ? { value: value.value } : refusal(value.error);
}

function asTrial(line: string): Trial | null {
  try {
    const json: unknown = JSON.parse(line);
    const { expression, types, context } = (json ?? {}) as Record<string, unknown>;
    const sound = typeof expression === 'string' && [types, context].every((one) => one === undefined || (typeof one === 'object' && one !== null && !Array.isArray(one)));
    return sound ? (json as Trial) : null;
  } catch {
    return null;
  }
}

function refusal(issues: readonly Issue[]): object {
  return { refused: issues.map((one) => ({ code: one.code, message: issueSentence(one), from: one.facts['from'] ?? 0, to: one.facts['to'] ?? 0, ...(one.path.length > 0 ? { at: one.path } : {}) })) };
}
