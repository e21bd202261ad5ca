import { showDate } from '../../core/formats/days';
import {
  dateForms,
  languages,
  numberForms,
  standardFormats,
  type DateForm,
  type Formats,
  type Language,
  type NumberForm,
} from '../../core/formats/formats';
import { writtenNumber } from '../../core/formats/numbers';
import { Select, type Choice } from './Select';
import { Sentence } from './Sentence';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from './speak-in';

/** Each in its own words, so that whoever reads one finds it. */
export const languageNames: Readonly<Record<Language, string>> = { en: 'English', de: 'Deutsch' };

const WEEK = spoken(() => [
  speak`Monday`,
  speak`Tuesday`,
  speak`Wednesday`,
  speak`Thursday`,
  speak`Friday`,
  speak`Saturday`,
  speak`Sunday`,
]);
/** A day of which every part is told from the others. */
const DAY = '2026-11-25';
const NUMBER = '1942.50';

const written = (formats: Formats, dates: DateForm): string =>
  showDate(DAY, { ...formats, dates, zone: 'UTC' });

interface Props {
  /** What is not named is as everybody here has it. */
  readonly value: Partial<Formats>;
  /** As everybody here has it; null where it is said for everybody. */
  readonly house: Formats | null;
  readonly onChange: (next: Partial<Formats>) => void;
}

/** How days and numbers are written, by examples. */
export function FormatsWords({ value, house, onChange }: Props) {
  const now: Formats = { ...(house ?? standardFormats), ...value };
  const pick = (name: keyof Formats, label: string, shown: string, choices: readonly Choice[]) => (
    <Select
      label={label}
      value={name in value ? String(value[name]) : ''}
      choices={
        house === null ? choices : [{ value: '', label: speak`${shown}, as everybody here` }, ...choices]
      }
      onChange={(next) => onChange(changed(value, name, next))}
    />
  );
  const of = house ?? now;
  return (
    <div className="grid gap-1.5">
      <Sentence>{speakIn`Days are written ${pick(
        'dates',
        speak`How days are written`,
        written({ ...of, language: now.language }, of.dates),
        dateForms.map((form) => ({ value: form, label: written(now, form) })),
      )}`}</Sentence>
      <Sentence>{speakIn`Numbers are written ${pick(
        'numbers',
        speak`How numbers are written`,
        writtenNumber(NUMBER, of.numbers),
        numberForms.map((form: NumberForm) => ({ value: form, label: writtenNumber(NUMBER, form) })),
      )}`}</Sentence>
      <Sentence>{speakIn`Weeks begin on ${pick(
        'firstDay',
        speak`The day a week begins with`,
        WEEK()[of.firstDay - 1] ?? '',
        WEEK().map((label, i) => ({ value: String(i + 1), label })),
      )}`}</Sentence>
      <Sentence>{speakIn`Screens speak ${pick(
        'language',
        speak`Language of the screens`,
        languageNames[of.language],
        languages.map((one) => ({ value: one, label: languageNames[one] })),
      )}`}</Sentence>
    </div>
  );
}

/** With one of them otherwise; with nothing picked, as everybody has it. */
function changed(value: Partial<Formats>, name: keyof Formats, next: string): Partial<Formats> {
  const { [name]: _, ...rest } = value;
  return next === '' ? rest : { ...rest, [name]: name === 'firstDay' ? Number(next) : next };
}
