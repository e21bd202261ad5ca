import { formatsHere, type Language } from '../formats/formats';

/** What is put into a sentence: as a template takes it. */
export type Put = string | number | boolean | null | undefined;

/** A sentence with places in it, of a language that is not the one of this code: null where it has no words for it. */
export type Translator = (key: string, values: readonly Put[]) => string | null;

const translators = new Map<Language, Translator>();

/** Told once for each language besides English, by who brings its words. */
export function speakBy(language: Language, translator: Translator): void {
  translators.set(language, translator);
}

/**
 * What is said on screens and in mails, in the language of whoever reads. English stands where it is said, with
 * what is put into it: speak`${count} rows`. Other languages have a file each, by the English sentence with its
 * places numbered: {0} rows.
 */
export function speak(english: TemplateStringsArray, ...values: readonly Put[]): string {
  return translated(keyOf(english), values) ?? String.raw({ raw: english }, ...values);
}

/** A sentence by its key, in the language of whoever reads; null where that is English. */
export const translated = (key: string, values: readonly Put[]): string | null =>
  translators.get(formatsHere().language)?.(key, values) ?? null;

/** An English sentence with its places numbered. */
export const keyOf = (english: readonly string[]): string =>
  english.map((part, i) => (i === 0 ? part : `{${i - 1}}${part}`)).join('');

/** Words that are made once for each language, for what stands outside of functions. */
export function spoken<T>(make: () => T): () => T {
  const made = new Map<Language, T>();
  return () => {
    const { language } = formatsHere();
    const known = made.get(language);
    if (known !== undefined) return known;
    const now = make();
    made.set(language, now);
    return now;
  };
}
