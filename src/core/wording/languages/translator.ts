import { IntlMessageFormat } from 'intl-messageformat';
import type { Language } from '../../formats/formats';
import { digits } from '../numbers';
import type { Put, Translator } from '../speak';

/** Each sentence by its English one. */
export type Words = Readonly<Record<string, string>>;

/** Whether a sentence has more in it than places: a plural, or what depends on a word (ICU message syntax). */
const CHOOSES = /\{\d+, (?:plural|select)/;
const PLACE = /\{(\d+)\}/g;

/** What says a language, by its file of words. */
export function translatorOf(language: Language, words: Words): Translator {
  const made = new Map<string, IntlMessageFormat>();
  const format = (text: string): IntlMessageFormat => {
    const known = made.get(text);
    if (known !== undefined) return known;
    const next = new IntlMessageFormat(text, language, undefined, { formatters });
    made.set(text, next);
    return next;
  };
  return (key, values) => {
    const text = words[key];
    if (text === undefined) return null;
    if (CHOOSES.test(text))
      return String(format(text).format(Object.fromEntries(values.map((value, i) => [i, plain(value)]))));
    return text.replace(PLACE, (_, at: string) => String(values[Number(at)]));
  };
}

const plain = (value: Put): string | number => (typeof value === 'number' ? value : String(value));

/** Counts are written as everywhere here, and not as is usual for the language. */
const formatters = {
  getNumberFormat: () => ({ format: (n: number) => digits(n) }) as unknown as Intl.NumberFormat,
  getDateTimeFormat: (...given: ConstructorParameters<typeof Intl.DateTimeFormat>) =>
    new Intl.DateTimeFormat(...given),
  getPluralRules: (...given: ConstructorParameters<typeof Intl.PluralRules>) =>
    new Intl.PluralRules(...given),
};
