import { comparisonsFor, memberWords, phraseFor, type Pick, type PickBy } from '../../core/check/pick-text';
import { dayRanges, readRelativeDay, relativeDayWords } from '../../core/check/day-ranges';
import type { Filterable } from '../../core/record/filter';
import { kinds } from '../../core/table/kinds/list';
import { showDate, typedDay } from '../../core/formats/days';
import { asKept, asTyped } from '../../core/formats/typed';
import type { Type } from '../../core/expression/type';
import { speak } from '../../core/wording/speak';

/** What is wrong with a filter that was written, and where in its text. */
export interface FilterFault {
  readonly sentence: string;
  readonly at: readonly [from: number, to: number] | null;
}

/** A condition that is picked as a whole: a stretch of days, or what it has in common with whoever looks. */
interface Preset {
  readonly words: string;
  readonly pick: Pick;
}

export const presetsFor = ({ kind, text }: Filterable): Preset[] =>
  kind === 'date'
    ? dayRanges().map(({ words, days }) => ({ words, pick: { left: text, by: 'between', right: days } }))
    : kind === 'text'
      ? [
          { words: speak`my place`, pick: { left: text, by: '=', right: ['me.place'] } },
          { words: speak`one of my groups`, pick: { left: MY_GROUPS, by: 'has', right: [text] } },
        ]
      : [];
const MY_GROUPS = 'me.groups';

/** What a condition is about, as FEEL. */
export const aboutOf = ({ left, right }: Pick): string => (left === MY_GROUPS ? (right[0] ?? '') : left);

export const presetOf = (of: Filterable, { left, by, right }: Pick): Preset | undefined =>
  presetsFor(of).find(
    ({ pick }) => pick.left === left && pick.by === by && pick.right.join() === right.join(),
  );

const quoted = (text: string): string =>
  `"${text.replace(/[\\"]/g, '\\$&').replace(/\n/g, '\\n').replace(/\r/g, '\\r').replace(/\t/g, '\\t')}"`;

/** How what is asked about compares; a record that is referred to is only there or not. */
const typeOf = ({ kind }: Filterable): Type =>
  (kind === 'reference' ? { t: 'person' } : kinds[kind].type) as Type;

export const comparisonsOf = (of: Filterable): { by: PickBy; words: string }[] =>
  of.kind === 'reference' || of.kind === 'files'
    ? [
        ...(of.isPerson
          ? ([
              { by: '=', words: speak`me` },
              { by: '!=', words: speak`not me` },
            ] as const)
          : []),
        { by: 'filled', words: speak`filled` },
        { by: 'empty', words: speak`left empty` },
      ]
    : comparisonsFor(typeOf(of));

/** What a comparison is with, where there is nothing to write: nothing at all, or whoever looks. Null where something is. */
export function rightOf(of: Filterable, by: PickBy): readonly string[] | null {
  if (by === 'filled' || by === 'empty') return [];
  return of.isPerson && (by === '=' || by === '!=') ? ['me'] : null;
}

/** The FEEL text of what somebody wrote; null for what is none of its kind. */
export function feelOf({ kind }: Filterable, written: string): string | null {
  const text = written.trim();
  if (text === '') return null;
  switch (kind) {
    case 'whole':
    case 'decimal':
    case 'money': {
      const plain = asKept(kind, text)
        .replace(/[\s\u202f\u00a0]/g, '')
        .replace('−', '-');
      return /^-?\d+(\.\d+)?$/.test(plain) ? plain : null;
    }
    case 'date': {
      const day = typedDay(text);
      return day === null ? readRelativeDay(text) : `date("${day}")`;
    }
    case 'date-time': {
      const day = typedDay(text);
      const [, at, time] = /^(\d{4}-\d\d-\d\d) (\d\d:\d\d)$/.exec(asKept(kind, text)) ?? [];
      if (at !== undefined) return `date and time("${at}T${time}:00")`;
      return day === null ? null : `date and time("${day}T00:00:00")`;
    }
    case 'time':
      return /^\d{1,2}:\d{2}$/.test(text) ? `time("${text.padStart(5, '0')}:00")` : null;
    case 'yes-no':
      return text === 'true' || text === 'false' ? text : null;
    default:
      return quoted(text);
  }
}

/** The same, back as people read it. */
export function wordsOf({ kind, choices }: Filterable, feel: string): string {
  const day = relativeDayWords(feel);
  if (day !== null) return day;
  if (kind === 'yes-no') return feel === 'true' ? speak`Yes` : speak`No`;
  const inner = /^(?:date|time|date and time)?\(?"(.*)"\)?$/s.exec(feel)?.[1]?.replace(/\\(.)/g, '$1');
  if (inner === undefined) return asTyped(kind, feel);
  if (kind === 'date') return showDate(inner);
  if (kind === 'date-time') return `${showDate(inner)}, ${inner.slice(11, 16)}`;
  return choices.find(({ code }) => code === inner)?.label ?? inner;
}

/** `State is one of Growing on, Planted out`. */
export function pickWords(of: Filterable | undefined, { left, by, right }: Pick): string {
  if (of === undefined) return `${left} ${by} ${right.join(', ')}`;
  const preset = presetOf(of, { left, by, right });
  if (preset !== undefined) return speak`${of.label} is ${preset.words}`;
  const phrase = phraseFor(typeOf(of), by);
  const values = right.map((one) => wordsOf(of, one)).join(by === 'between' ? speak` and ` : speak` or `);
  // A single value is simply what it is.
  const is =
    memberWords(by) ??
    (by === 'one-of' || by === '='
      ? speak`is`
      : by === '!=' || by === 'none-of'
        ? speak`is not`
        : speak`is ${phrase}`);
  return [of.label, is, values].filter((part) => part !== '').join(' ');
}

/** A condition in words, by what it is about. */
export const wordsIn = (filterables: readonly Filterable[], pick: Pick): string =>
  pickWords(
    filterables.find(({ text }) => text === aboutOf(pick)),
    pick,
  );
