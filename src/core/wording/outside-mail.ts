import { escaped, quoted, type Mail } from './notice-mail';
import { speak, spoken } from './speak';

/** What is told somebody outside about what they sent. */
export type OutsideNews = 'sent' | 'sent-back' | 'kept' | 'declined';

interface About {
  readonly kind: OutsideNews;
  /** Of the form. */
  readonly title: string;
  readonly number: string;
  /** Of whoever decided; empty where nothing was said. */
  readonly word: string;
  /** What the owner of the form has it say besides; may be empty. */
  readonly besides: string;
}

const news = spoken((): Readonly<Record<OutsideNews, string>> => ({
  sent: speak`has arrived`,
  'sent-back': speak`was sent back to you`,
  kept: speak`was accepted`,
  declined: speak`was declined`,
}));

/**
 * A mail of which nothing but the word, and what the owner of the form says, was written by anybody: whoever
 * names another one's address sends them nothing of their own. `house` is the name of the workspace.
 */
export function outsideMail(
  { kind, title, number, word, besides }: About,
  link: string,
  house: string,
): Mail {
  const said = `${title} ${number} ${news()[kind]}`;
  const todo = kind === 'sent-back' ? speak`Answer it here` : speak`See how it stands`;
  const why = speak`You get this because your address was given in a form${house === '' ? '' : speak` of ${house}`}. If that was not you, nothing need be done.`;
  return {
    subject: said,
    text: [
      `${said}.`,
      ...(word === '' ? [] : [quoted(word).join('\n')]),
      ...(besides === '' ? [] : [besides]),
      `${todo}: ${link}`,
      why,
    ].join('\n\n'),
    html: [
      `<p>${escaped(said)}.</p>`,
      ...(word === ''
        ? []
        : [speak`<blockquote dir="auto" style="white-space:pre-line">${escaped(word)}</blockquote>`]),
      ...(besides === '' ? [] : [`<p dir="auto" style="white-space:pre-line">${escaped(besides)}</p>`]),
      `<p><a href="${escaped(link)}">${todo}</a></p>`,
      `<p style="color:#555">${escaped(why)}</p>`,
    ].join('\n'),
  };
}
