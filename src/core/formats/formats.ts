/** The languages of the screens: BCP 47. */
export const languages = ['en', 'de'] as const;
export type Language = (typeof languages)[number];

/** How a day is written: with its month in words, or in digits in one of the usual orders. */
export const dateForms = ['words', 'slashes', 'dots', 'month-first', 'year-first'] as const;
export type DateForm = (typeof dateForms)[number];

/** What parts the thousands, and what the decimals. */
export const numberForms = [
  'space-point',
  'space-comma',
  'comma-point',
  'point-comma',
  'apostrophe-point',
] as const;
export type NumberForm = (typeof numberForms)[number];

/** How whoever looks reads and writes. */
export interface Formats {
  readonly language: Language;
  readonly dates: DateForm;
  readonly numbers: NumberForm;
  /** The day a week begins with: ISO 8601 numbers, 1 for Monday. */
  readonly firstDay: number;
}

/** With the zone (IANA) whose times of day are shown, which is the same for everybody in a workspace. */
export interface FormatsHere extends Formats {
  readonly zone: string;
}

/** Of a new workspace, and of what is written for no one in particular. */
export const standardFormats: Formats = {
  language: 'en',
  dates: 'words',
  numbers: 'space-point',
  firstDay: 1,
};

/** The tag that formatters of the platform go by: of English that of Britain, whose order of days it is. */
export const localeOf = ({ language }: Formats): string => ({ en: 'en-GB', de: 'de-DE' })[language];

let asked: () => FormatsHere = () => ({ ...standardFormats, zone: 'UTC' });

/**
 * Which formats hold for whoever it is shown to. It is asked where something is written for people, as Intl
 * asks its surroundings, so that no caller has to hand it on (ADR 44).
 */
export const formatsHere = (): FormatsHere => asked();

/** Told once by what surrounds: on the server by who asks, in the browser by the page. */
export function formatsFrom(source: () => FormatsHere): void {
  asked = source;
}

const WEEK = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;

/** The day a week begins with here, as calendars call it. */
export const weekBegins = (): (typeof WEEK)[number] => WEEK[formatsHere().firstDay - 1] ?? 'mon';
