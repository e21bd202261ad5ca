import { logFault, refusedBy } from '../use-cases/workspace/log-fault';
import type { Problem } from '../contract/answers-from-server';
import type { Refusal } from '../core/kernel/refusal';
import { issueSentence } from '../core/wording/issue-sentence';
import { refusalSentence } from '../core/wording/refusal-sentence';
import { speak } from '../core/wording/speak';

const statuses: Readonly<Record<Refusal['kind'], number>> = {
  invalid: 422,
  'not-found': 404,
  forbidden: 403,
  stale: 409,
  'too-large': 413,
  'too-many': 429,
  unavailable: 503,
};

/** A refusal as an RFC 9457 problem document, each issue with its path and sentence; `as`: another status than usual. */
export function problem(refusal: Refusal, as?: number, headers: Record<string, string> = {}): Response {
  const signIn = refusal.kind === 'forbidden' && refusal.why === 'sign-in';
  const status = as ?? (signIn ? 401 : statuses[refusal.kind]);
  const body: Problem = {
    type: `tag:tidy-slate.example,2026:${refusal.kind}`,
    title: refusalSentence(refusal),
    status,
    code: 'why' in refusal ? refusal.why : refusal.kind,
    ...(refusal.kind === 'stale' && { facts: refusal.facts }),
    ...(refusal.kind === 'invalid' && {
      issues: refusal.issues.map((issue) => ({ ...issue, sentence: issueSentence(issue) })),
    }),
  };
  return problemResponse(body, {
    ...headers,
    ...('retryAfter' in refusal && { 'retry-after': String(refusal.retryAfter) }),
  });
}

/** What was thrown, as an answer: the database's absence with when to come back, anything else as a fault that stands in the log. */
export function thrown(error: unknown, where: string): Response {
  const refusal = refusedBy(error);
  return refusal === null ? fault(logFault(error, where)) : problem(refusal);
}

/** A fault: nothing of it is told but the reference under which it stands in the log. */
export function fault(reference: string): Response {
  return problemResponse({
    type: 'tag:tidy-slate.example,2026:fault',
    title: speak`Something went wrong on our side; nothing was changed`,
    status: 500,
    code: 'fault',
    reference,
  });
}

const problemResponse = (body: Problem, more: Record<string, string> = {}): Response =>
  new Response(JSON.stringify(body), {
    status: body.status,
    headers: { 'content-type': 'application/problem+json', 'cache-control': 'no-store', ...more },
  });
