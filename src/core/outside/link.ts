import { questionsOf, type FormDesign, type LookupQuestion, type Question } from '../form/design';

/** Of a link to a form for people outside, what says whether it still leads anywhere. */
export interface LinkFacts {
  readonly stopped: boolean;
  /** ISO instant. */
  readonly endsAt: string | null;
  readonly most: number | null;
  readonly sent: number;
}

export const linkStates = ['open', 'stopped', 'over', 'full'] as const;
export type LinkState = (typeof linkStates)[number];

export function linkState({ stopped, endsAt, most, sent }: LinkFacts, now: Date): LinkState {
  if (stopped) return 'stopped';
  if (endsAt !== null && Date.parse(endsAt) <= now.getTime()) return 'over';
  return most !== null && sent >= most ? 'full' : 'open';
}

/** The lookups that whoever fills a new sheet of a form is asked: each shows them records. */
export const lookupsIn = (design: FormDesign): LookupQuestion[] =>
  questionsOf(design)
    .filter(isAsked)
    .flatMap((question) => (question.kind === 'rows' ? question.columns.filter(isAsked) : [question]))
    .flatMap((question) => (question.kind === 'lookup' ? [question] : []));

const isAsked = ({ onNew }: Question): boolean => onNew !== 'hidden';

/**
 * Those that nobody has opened to people outside. While there is one, no link leads to the form: a later
 * release must not show them more in silence.
 */
export const unopened = (design: FormDesign, opened: readonly string[]): LookupQuestion[] =>
  lookupsIn(design).filter(({ id }) => !opened.includes(id));

/**
 * A site whose pages may show a form within them, as browsers name it; null for what is none. Only what is
 * encrypted, or on this machine.
 */
export function siteOf(text: string): string | null {
  const said = text.trim();
  if (!URL.canParse(said)) return null;
  const { protocol, hostname, origin, pathname, search, hash, username } = new URL(said);
  const isOwn = protocol === 'http:' && (hostname === 'localhost' || hostname === '127.0.0.1');
  const isBare = pathname === '/' && search === '' && hash === '' && username === '';
  return (protocol === 'https:' || isOwn) && isBare && !/[\s;,'"*]/.test(origin) ? origin : null;
}
