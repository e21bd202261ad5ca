import { fold } from './cell';
import type { ColumnDecision } from './decisions';
import type { DetectedColumn } from './detection';

/**
 * What people write where they have nothing to write, without case, spaces and accents. Some of them may be
 * meant, so it is only proposed.
 */
const WORDS = new Set(
  [
    ...['n/a', 'n.a.', 'n.a', 'na', '#n/a', 'not applicable', 'not available', 'not known', 'unknown'],
    ...['-', '--', '---', '–', '—', '.', '?', '??', '???', 'none', 'null', 'nil', 'nan', 'blank', 'empty'],
    ...['no data', 'missing', 'tbc', 'tbd', 'tba', 'to be confirmed', 'to follow', '#null!', '(blank)'],
    ...[
      'k.a.',
      'keine angabe',
      'unbekannt',
      'ohne',
      's/o',
      'inconnu',
      'desconocido',
      'sin datos',
      'sconosciuto',
    ],
  ].map(fold),
);
const LONGEST = 20;

export const isEmptyWord = (text: string): boolean => text.length <= LONGEST && WORDS.has(fold(text));

/** Kinds among whose values such a word may be one. */
export const WORDY: ReadonlySet<string> = new Set(['text', 'choice', 'yes-no']);

/**
 * Whether they are taken for nothing in a column that holds values of some kind: where they would not fit,
 * unless somebody says otherwise. Nobody means them as the name of a record.
 */
export const wordsAreEmpty = (
  { emptyWords, kind: foundKind }: Pick<DetectedColumn, 'emptyWords' | 'kind'>,
  decided: Pick<ColumnDecision, 'wordsAreEmpty'>,
  kind: string,
): boolean =>
  emptyWords !== undefined &&
  (decided.wordsAreEmpty ?? (!WORDY.has(kind) || (emptyWords.taken && kind === foundKind)));

/** How such a column is read. */
export const emptyReading = (
  found: Pick<DetectedColumn, 'emptyWords' | 'kind'>,
  decided: Pick<ColumnDecision, 'wordsAreEmpty'>,
  kind: string,
): { empty?: readonly string[] } =>
  wordsAreEmpty(found, decided, kind)
    ? { empty: (found.emptyWords?.words ?? []).map(({ text }) => fold(text)) }
    : {};
