import { IntlMessageFormat } from 'intl-messageformat';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import { spokenKeys } from '../../../../tests/support/spoken-keys';
import { formatsFrom, languages, standardFormats, type Language } from '../../formats/formats';
import { issueSentence } from '../issue-sentence';
import { counted } from '../numbers';
import { speak, spoken } from '../speak';
import german from './de.json';
import './german';
import type { Words } from './translator';

const files: Readonly<Record<Exclude<Language, 'en'>, Words>> = { de: german };
const inLanguage = (language: Language): void =>
  formatsFrom(() => ({ ...standardFormats, zone: 'UTC', language }));
afterAll(() => inLanguage('en'));

const keys = spokenKeys(fileURLToPath(new URL('../../..', import.meta.url)));
const placesOf = (text: string): Set<string> => new Set(text.match(/(?<=\{)\d+(?=[},])/g));

describe.each(languages.filter((one) => one !== 'en'))('%s', (language) => {
  const words = files[language];

  it('has words for all that is said', () => {
    expect([...keys].filter(([key]) => words[key] === undefined)).toEqual([]);
  });

  it('has none for what nothing says any more', () => {
    expect(Object.keys(words).filter((key) => !keys.has(key))).toEqual([]);
  });

  it('puts in nothing that is not there, and reads as ICU messages do', () => {
    for (const [key, text] of Object.entries(words)) {
      expect(
        [...placesOf(text)].filter((place) => !placesOf(key).has(place)),
        key,
      ).toEqual([]);
      if (/\{\d+, /.test(text))
        expect(new IntlMessageFormat(text, language).getAst().length, key).toBeGreaterThan(0);
    }
  });
});

describe('what is said', () => {
  it('is English where nothing else is wished for', () => {
    inLanguage('en');
    expect(speak`Row ${3}`).toBe('Row 3');
    expect([counted(1, 'row'), counted(1_234, 'row')]).toEqual(['1 row', '1\u202f234 rows']);
  });

  it('is in the language of whoever reads, with plurals and figures as they have them', () => {
    inLanguage('de');
    expect(speak`Row ${3}`).toBe('Zeile 3');
    expect([counted(1, 'row'), counted(1_234, 'row')]).toEqual(['1 Zeile', '1\u202f234 Zeilen']);
    expect(issueSentence({ code: 'required', path: [], facts: { label: 'Beet' } })).toBe(
      'Beet ist nicht ausgefüllt',
    );
    expect(
      issueSentence({ code: 'edit-not-allowed', path: [], facts: { action: 'remove', table: 'Beete' } }),
    ).toBe('Sie dürfen Datensätze von Beete nicht entfernen');
  });

  it('is made once for each language where it stands outside of functions', () => {
    const week = spoken(() => [speak`Monday`]);
    inLanguage('en');
    expect(week()).toEqual(['Monday']);
    inLanguage('de');
    expect(week()).toEqual(['Montag']);
    expect(week()).toBe(week());
    inLanguage('en');
    expect(week()).toEqual(['Monday']);
  });
});
