import { ColumnProfile } from '../import/column-profile';
import { kindOf } from '../import/column-kind';
import { limits } from '../limits';
import type { AskedKind } from './edit';
import { suggestKind } from './suggest-kind';

/** A question as it is typed, or pasted among others: its words, and the kind they or the values under them speak for. */
export interface TypedLine {
  readonly label: string;
  readonly kind: AskedKind;
  /** The values that were under it, where they are a few that come again. */
  readonly choices: readonly string[];
}

/** Different values of a column that are remembered. */
const MOST_VALUES = 200;
const MOST_LINES = 60;

/**
 * Questions from what was typed or pasted: one, a list of them (a line or a cell each), or a block of cells
 * whose first line names the columns, with values under them that say what kind each is of.
 */
export function typedLines(text: string): TypedLine[] {
  const lines = text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .filter((line) => line.trim() !== '');
  const cells = lines.map((line) => line.split('\t').map((cell) => cell.trim()));
  const [header = [], ...values] = cells;
  const isBlock =
    values.length > 0 && header.length > 1 && cells.every(({ length }) => length <= header.length);
  const made = isBlock
    ? header.map((label, i) =>
        fromValues(
          label,
          values.map((row) => row[i] ?? ''),
        ),
      )
    : cells.flat().map((label) => ({ label, kind: suggestKind(label), choices: [] }));
  return made
    .map((line) => ({ ...line, label: [...line.label].slice(0, limits.label).join('') }))
    .filter(({ label }) => label !== '')
    .slice(0, MOST_LINES);
}

function fromValues(label: string, values: readonly string[]): TypedLine {
  const profile = new ColumnProfile(MOST_VALUES);
  values.forEach((value, row) => profile.add(value, row));
  profile.end();
  const { kind, choices } = kindOf(profile, label);
  // Where the values say nothing, the words do.
  return kind === 'text'
    ? { label, kind: suggestKind(label), choices: [] }
    : { label, kind, choices: (choices ?? []).map(({ value }) => value) };
}
