import { expect, it } from 'vitest';
import { limits } from '../limits';
import type { NoticeFacts } from '../notice/notice';
import { mailAtOnce, mailOfTheDay } from './notice-mail';

const facts: NoticeFacts = {
  kind: 'sent-back',
  title: 'Treatment',
  number: 'TR-1',
  sender: 'Maren Solheim',
  by: 'Tomasz Bielak',
  handed: false,
  passed: false,
  insteadOf: null,
  standsInFor: null,
  word: 'Which bed?\n<b>Say</b> it',
  due: null,
};
const told = { facts, link: 'https://slate.example/submissions/1', besides: '' };

it('says what happened and what was said, and leads to the page', () => {
  const { subject, text } = mailAtOnce('Maren Solheim', [told], 'https://slate.example/account');
  expect(subject).toBe('Tomasz Bielak sent Treatment TR-1 back to you');
  expect(text.split('\n\n')).toEqual([
    'Hello Maren,',
    'Tomasz Bielak sent Treatment TR-1 back to you.\n> Which bed?\n> <b>Say</b> it\nhttps://slate.example/submissions/1',
    'You are told at once. Choose how often: https://slate.example/account',
  ]);
});

it('says what the owner of the form adds, as text', () => {
  const { text, html } = mailAtOnce('Maren', [{ ...told, besides: 'Spray G4.\nThen <rest>' }], '');
  expect(text).toContain('> <b>Say</b> it\nSpray G4.\nThen <rest>\nhttps://');
  expect(html).toContain('Spray G4.\nThen &#60;rest&#62;');
});

it('holds nothing of what people typed as HTML', () => {
  const { html } = mailAtOnce('<i>Maren', [told], 'https://slate.example/account?a="&b');
  expect(html).not.toMatch(/<b>|<i>|="&b/);
  expect(html).toContain('&#60;b&#62;Say&#60;/b&#62; it');
});

it('says how many there are, and tells so many of them', () => {
  const many = Array.from({ length: limits.notices + 2 }, () => told);
  const { subject, text } = mailAtOnce('Maren', many, '');
  expect(subject).toBe(`${limits.notices + 2} things to know`);
  expect(text.match(/sent Treatment/g)).toHaveLength(limits.notices);
  expect(text).toContain('And 2 things more.');
});

it('counts what a day brought', () => {
  expect(mailOfTheDay('Maren', [told, told], '').subject).toBe('2 things to know today');
  expect(mailOfTheDay('Maren', [told], '').subject).toBe('1 thing to know today');
});
