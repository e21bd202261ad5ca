import { describe, expect, it } from 'vitest';
import type { Problem } from '../contract/answers-from-server';
import { issue } from '../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../core/kernel/refusal';
import { refusalSentence, stateWord } from '../core/wording/refusal-sentence';
import { fault, problem } from './problem';

const bodyOf = async (response: Response): Promise<Problem> => (await response.json()) as Problem;

describe('a refusal as a problem document', () => {
  it.each<[Refusal, number, string]>([
    [invalid(issue('required', ['q'], { label: 'Bed' })), 422, 'invalid'],
    [notFound('form'), 404, 'not-found'],
    [forbidden('design'), 403, 'design'],
    [forbidden('sign-in'), 401, 'sign-in'],
    [stale('already-decided', { by: 'Ada Quist', state: 'kept' }), 409, 'already-decided'],
    [{ kind: 'too-large', limitBytes: 2 * 1024 * 1024 }, 413, 'too-large'],
  ])('%j', async (refusal, status, code) => {
    const response = problem(refusal);
    expect([
      response.status,
      response.headers.get('content-type'),
      response.headers.get('cache-control'),
    ]).toEqual([status, 'application/problem+json', 'no-store']);
    expect(await bodyOf(response)).toMatchObject({ status, code, title: refusalSentence(refusal) });
  });

  it('carries every issue with its path and sentence', async () => {
    const { issues } = await bodyOf(
      problem(
        invalid(
          issue('required', ['qbed'], { label: 'Bed' }),
          issue('not-a-number', ['g', 'r1', 'rate'], { label: 'Rate', comma: true }),
        ),
      ),
    );
    expect(issues?.map(({ path, sentence }) => [path, sentence])).toEqual([
      [['qbed'], 'Bed is not filled'],
      [['g', 'r1', 'rate'], 'Rate: write decimals as in 1.5'],
    ]);
  });

  it('tells nothing of a fault but where it stands in the log', async () => {
    expect(await bodyOf(fault('ab12cd34'))).toEqual({
      type: 'tag:tidy-slate.example,2026:fault',
      title: 'Something went wrong on our side; nothing was changed',
      status: 500,
      code: 'fault',
      reference: 'ab12cd34',
    });
  });
});

describe('what happened and what to do', () => {
  it('names who was first', () => {
    expect(refusalSentence(stale('already-decided', { by: 'Ada Quist', state: 'declined' }))).toBe(
      'Ada Quist decided this already: declined',
    );
    expect(refusalSentence(stale('already-decided', { state: 'kept' }))).toBe(
      'This has been decided already: approved and kept',
    );
    expect(refusalSentence(stale('design-changed', { by: 'Wren Calloway' }))).toMatch(
      /^Wren Calloway changed this form meanwhile/,
    );
    expect(refusalSentence(stale('design-changed'))).toMatch(/^Somebody changed/);
  });

  it('is said for every reason', () => {
    for (const why of [
      'sign-in',
      'design',
      'fill',
      'see',
      'own-only',
      'not-asked',
      'own-submission',
      'origin',
    ] as const)
      expect(refusalSentence(forbidden(why))).toMatch(/\S/);
    for (const why of ['draft-changed', 'already-sent', 'not-waiting', 'busy'] as const)
      expect(refusalSentence(stale(why, { state: 'sent-back' }))).toMatch(/\S/);
    expect(stateWord('sent-back')).toBe('sent back');
  });
});
