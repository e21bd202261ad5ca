import { fold } from '../cell';

/** Yes and no as people write them, a language or a habit to a line. A column is yes or no when all of it is of one line. */
const PAIRS: readonly (readonly [yes: readonly string[], no: readonly string[]])[] = [
  [
    ['yes', 'y'],
    ['no', 'n'],
  ],
  [
    ['true', 't'],
    ['false', 'f'],
  ],
  [
    ['ja', 'j'],
    ['nein', 'n', 'nee', 'nej', 'nei'],
  ],
  [
    ['oui', 'o'],
    ['non', 'n'],
  ],
  [
    ['si', 's', 'sim'],
    ['no', 'n', 'nao'],
  ],
  [
    ['tak', 't'],
    ['nie', 'n'],
  ],
  [
    ['ano', 'a'],
    ['ne', 'n'],
  ],
  [
    ['da', 'd'],
    ['nu', 'ne', 'n'],
  ],
  [
    ['kylla', 'k'],
    ['ei', 'e'],
  ],
  [
    ['evet', 'e'],
    ['hayir', 'h'],
  ],
  [
    ['✓', '✔', 'x', '☑'],
    ['✗', '✘', '-', '☐'],
  ],
  [['on'], ['off']],
  [['1'], ['0']],
];

/** By folded word: what it means in which pairs. */
const MEANINGS = new Map<string, (readonly [pair: number, yes: boolean])[]>();
PAIRS.forEach(([yes, no], pair) => {
  for (const [words, means] of [
    [yes, true],
    [no, false],
  ] as const)
    for (const word of words) MEANINGS.set(word, [...(MEANINGS.get(word) ?? []), [pair, means]]);
});

/** The pairs a word belongs to; none when it is neither yes nor no. */
export const pairsOf = (text: string): readonly number[] =>
  text.length > 6 ? [] : (MEANINGS.get(fold(text)) ?? []).map(([pair]) => pair);

/** Whether it is a yes of that pair; null when it is not of it. */
export const readYesNo = (text: string, pair: number): boolean | null =>
  MEANINGS.get(fold(text))?.find(([one]) => one === pair)?.[1] ?? null;

/** Ticks and crosses: one of them alone says yes, and a blank no. */
export const MARK_PAIR = PAIRS.findIndex(([yes]) => yes.includes('✓'));
/** Ones and noughts, which are also numbers. */
export const DIGIT_PAIR = PAIRS.length - 1;

export const isEmail = (text: string): boolean => text.length <= 254 && EMAIL.test(text);
const EMAIL = /^[^\s@<>(),;:"]+@[^\s@<>(),;:"]+\.[\p{L}]{2,}$/u;

export const isWebAddress = (text: string): boolean => text.length <= 2_000 && WEB.test(text);
const WEB = /^(?:https?:\/\/|www\.)[^\s]+\.[^\s]+$/i;

/** Written as telephone numbers are: with a plus, brackets or several groups; mere digits are not enough. */
export function isPhone(text: string): boolean {
  if (!PHONE.test(text) || DAY_LIKE.test(text)) return false;
  const digits = text.replace(/\D/g, '').length;
  return (
    digits >= 6 &&
    digits <= 15 &&
    (text.startsWith('+') ||
      text.startsWith('(') ||
      (text.startsWith('0') && digits >= 8) ||
      /^\d{2,5}[ /-]\d{3,}[ -]?\d{2,}/.test(text))
  );
}
const PHONE = /^\+?[\d(][\d\s()./-]{5,22}$/;
const DAY_LIKE = /^\d{1,4}[./-]\d{1,2}[./-]\d{1,4}$/;
