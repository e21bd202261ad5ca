import { limits } from '../limits';
import type { NoticeFacts } from '../notice/notice';
import { noticeSentence } from './notice-sentence';
import { counted } from './numbers';
import { speak } from './speak';

export interface Mail {
  readonly subject: string;
  readonly text: string;
  readonly html: string;
}

/** A notice, and the address under which it is looked at. */
export interface Told {
  readonly facts: NoticeFacts;
  readonly link: string;
  /** What the owner of the form has it say besides; may be empty. */
  readonly besides: string;
}

/** What is mailed at once. It leads to the pages, where whoever reads it signs in; nothing is decided by a mail. */
export const mailAtOnce = (name: string, all: readonly Told[], account: string): Mail => {
  const [only, ...more] = all;
  const subject =
    only !== undefined && more.length === 0
      ? noticeSentence(only.facts)
      : speak`${counted(all.length, 'thing')} to know`;
  return mail(subject, name, all, speak`You are told at once.`, account);
};

/** What is mailed once a day: everything since the last one. */
export const mailOfTheDay = (name: string, all: readonly Told[], account: string): Mail =>
  mail(
    speak`${counted(all.length, 'thing')} to know today`,
    name,
    all,
    speak`You are told once a day, of what you have not looked at.`,
    account,
  );

function mail(subject: string, name: string, all: readonly Told[], often: string, account: string): Mail {
  const [first = ''] = name.split(' ');
  const left = all.length - limits.notices;
  const more = left > 0 ? speak`And ${counted(left, 'thing')} more.` : '';
  const parts = all.slice(0, limits.notices).map(({ facts, link, besides }) => ({
    sentence: `${noticeSentence(facts)}.`,
    word: facts.word,
    besides,
    link,
  }));
  const text = [
    speak`Hello ${first},`,
    ...parts.map(({ sentence, word, besides, link }) =>
      [sentence, ...quoted(word), ...(besides === '' ? [] : [besides]), link].join('\n'),
    ),
    ...(more === '' ? [] : [more]),
    speak`${often} Choose how often: ${account}`,
  ].join('\n\n');
  const html = [
    `<p>${speak`Hello ${escaped(first)},`}</p>`,
    ...parts.map(
      ({ sentence, word, besides, link }) =>
        `<p>${escaped(sentence)}</p>${word === '' ? '' : `<blockquote dir="auto" style="white-space:pre-line">${escaped(word)}</blockquote>`}${besides === '' ? '' : `<p dir="auto" style="white-space:pre-line">${escaped(besides)}</p>`}<p><a href="${escaped(link)}">${speak`Open it`}</a></p>`,
    ),
    ...(more === '' ? [] : [`<p>${more}</p>`]),
    `<p style="color:#555">${escaped(often)} <a href="${escaped(account)}">${speak`Choose how often`}</a></p>`,
  ].join('\n');
  return { subject, text, html };
}

/** What somebody said, as mails quote. */
export const quoted = (word: string): string[] =>
  word === '' ? [] : word.split('\n').map((line) => `> ${line}`);

export const escaped = (text: string): string => text.replace(/[&<>"']/g, (one) => `&#${one.charCodeAt(0)};`);
