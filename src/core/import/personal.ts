import type { ColumnFigures } from './column-figures';
import type { PersonalData } from '../table/model';
import type { DetectedKind } from './detection';
import { PHONE_HEADING } from './column-kind';

const HEADINGS: readonly (readonly [PersonalData, RegExp])[] = [
  ['e-mail', /e-?mail|courriel/i],
  ['phone', PHONE_HEADING],
  ['birth', /birth|\bdob\b|geburt|naissance|nacimiento|\bage\b/i],
  [
    'address',
    /address|street|stra(ß|ss)e|adresse|\brue\b|direcci[oó]n|indirizzo|post ?code|\bzip\b|\bplz\b/i,
  ],
  [
    'bank',
    /iban|account (no|number)|bank account|kontonummer|sort code|passport|national insurance|social security/i,
  ],
  [
    'name',
    /first ?name|last ?name|surname|full ?name|family name|given name|vorname|nachname|pr[eé]nom|apellido|cognome|contact( person| name)?$|^(volunteer|teacher|gardener|person|employee|staff member|recorder|collector|collected by|sent by|reported by|leader|guide|sender|visitor|customer|donor)( name)?s?$/i,
  ],
];
/** Of somebody or something: only what stands beside it tells. */
const ANY_NAME = /^(name|namen|nom|nombre|nome)$/i;

/** Whether a column looks like data about people; the owner confirms or clears it. */
export function personalIn(
  heading: string,
  column: ColumnFigures,
  kind: DetectedKind,
  beside: readonly string[],
): PersonalData | null {
  if (kind === 'e-mail' || kind === 'phone') return kind;
  if (kind === 'yes-no' || kind === 'decimal' || kind === 'money' || column.filled === 0) return null;
  const [named] = HEADINGS.find(
    ([what, words]) =>
      words.test(heading) &&
      (kind === 'text' || kind === 'choice' || what === 'birth' || what === 'bank' || what === 'phone'),
  ) ?? [null];
  if (named !== null) return named;
  const people = column.personLike >= column.filled * 0.7;
  if ((kind === 'text' || kind === 'choice') && people && BY_SOMEBODY.test(heading)) return 'name';
  if (
    kind === 'text' &&
    people &&
    ANY_NAME.test(heading.trim()) &&
    beside.some((other) => other !== heading && PERSON_BESIDE.test(other))
  )
    return 'name';
  return null;
}

/** The same of a column whose values nobody has looked at, by its name alone. */
export const personalByHeading = (name: string): PersonalData | null =>
  HEADINGS.find(([, words]) => words.test(name.replaceAll('_', ' ')))?.[0] ?? null;

const BY_SOMEBODY = /\bby$|\bvon$|\bpar$|responsible|in charge|head of/i;
const PERSON_BESIDE = /e-?mail|phone|telefon|mobile|birth|address|\bdob\b/i;
