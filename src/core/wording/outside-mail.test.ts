import { expect, it } from 'vitest';
import { outsideMail } from './outside-mail';

const about = {
  kind: 'sent-back' as const,
  title: 'School <visit>',
  number: 'SV-2026-0001',
  besides: '',
  word: 'All at once?\n<b>',
};

it('says what became of it, what was said, and where to go on', () => {
  const mail = outsideMail(about, 'https://slate.example/followed#a.b', 'Quillmere');
  expect(mail.subject).toBe('School <visit> SV-2026-0001 was sent back to you');
  expect(mail.text).toContain('> All at once?');
  expect(mail.text).toContain('Answer it here: https://slate.example/followed#a.b');
  expect(mail.text).toContain('in a form of Quillmere');
  expect(mail.html).toContain('School &#60;visit&#62;');
  expect(mail.html).not.toContain('<b>');
});

it('has no word where nothing was said', () => {
  const { text, html } = outsideMail(
    { ...about, kind: 'sent', besides: '', word: '' },
    'https://slate.example',
    '',
  );
  expect(text).not.toMatch(/^>/m);
  expect(html).not.toContain('blockquote');
  expect(text).toContain('given in a form.');
});
