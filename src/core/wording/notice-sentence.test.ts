import { expect, it } from 'vitest';
import type { NoticeFacts, NoticeKind } from '../notice/notice';
import { noticeSentence } from './notice-sentence';

const facts: NoticeFacts = {
  kind: 'asked',
  title: 'Treatment',
  number: 'TR-2026-0412',
  sender: 'Maren Solheim',
  by: 'Tomasz Bielak',
  handed: false,
  passed: false,
  insteadOf: null,
  standsInFor: null,
  word: '',
  due: '2026-11-26',
};

it('says who did what with which sheet', () => {
  const said = (
    ['asked', 'kept', 'sent-back', 'declined', 'withdrawn', 'remark', 'due', 'late'] as NoticeKind[]
  ).map((kind) => noticeSentence({ ...facts, kind }));
  expect(said).toEqual([
    'Maren Solheim asks you to approve Treatment TR-2026-0412',
    'Tomasz Bielak approved Treatment TR-2026-0412, and it is kept',
    'Tomasz Bielak sent Treatment TR-2026-0412 back to you',
    'Tomasz Bielak declined Treatment TR-2026-0412',
    'Tomasz Bielak withdrew Treatment TR-2026-0412; you need not decide it',
    'Tomasz Bielak wrote about Treatment TR-2026-0412',
    'Maren Solheim’s Treatment TR-2026-0412 is due today',
    'Maren Solheim’s Treatment TR-2026-0412 was due on Thu 26 Nov 2026',
  ]);
});

it('says of a sheet that came by somebody else whose it was', () => {
  expect(noticeSentence({ ...facts, handed: true })).toBe(
    'Tomasz Bielak handed Treatment TR-2026-0412 over to you',
  );
  expect(noticeSentence({ ...facts, insteadOf: 'Pell Adeyemi' })).toBe(
    'Maren Solheim asks you to approve Treatment TR-2026-0412, for Pell Adeyemi is late',
  );
  expect(noticeSentence({ ...facts, standsInFor: 'Ada Quist', number: null })).toBe(
    'Maren Solheim asks you to approve Treatment in place of Ada Quist, who is away',
  );
});
