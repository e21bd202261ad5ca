import { fold } from './cell';
import type { NumberedColumns } from './detection';

const NUMBERED = /^(.*?[^\d\s_.#-])[\s_.#-]*(\d{1,2})$/;
/** Two lines of an address are no list. */
const LINES = /address|adresse|street|line|name/i;

/** `item1, qty1, item2, qty2`: headings that differ in a number only, each stem as often and by the same numbers. */
export function numberedColumns(
  names: readonly string[],
  rowsFilled: (columns: readonly string[]) => number,
): NumberedColumns[] {
  const stems = new Map<string, { stem: string; columns: Map<number, string> }>();
  for (const name of names) {
    const [, stem = '', n = ''] = NUMBERED.exec(name) ?? [];
    if (stem === '') continue;
    const known = stems.get(fold(stem)) ?? { stem: stem.trim(), columns: new Map<number, string>() };
    known.columns.set(Number(n), name);
    stems.set(fold(stem), known);
  }
  const sets = new Map<string, { stem: string; columns: string[] }[]>();
  for (const { stem, columns } of stems.values()) {
    const numbers = [...columns.keys()].sort((a, b) => a - b);
    if (!isRun(numbers)) continue;
    const run = numbers.join(' ');
    sets.set(run, [...(sets.get(run) ?? []), { stem, columns: numbers.map((n) => columns.get(n) ?? '') }]);
  }
  return [...sets.values()].flatMap((group) => {
    const times = group[0]?.columns.length ?? 0;
    const lists = group.filter(({ stem }) => times > 2 || !LINES.test(stem));
    if (lists.length === 0) return [];
    const rows = Array.from({ length: times }, (_, i) =>
      rowsFilled(lists.map(({ columns }) => columns[i] ?? '')),
    ).reduce((sum, n) => sum + n, 0);
    return [{ stems: lists, times, rows }];
  });
}

/** 1, 2, 3 … or 0, 1, 2 …; years and sizes are not counted up like that. */
const isRun = (numbers: readonly number[]): boolean =>
  numbers.length > 1 &&
  (numbers[0] ?? 9) <= 1 &&
  numbers.every((n, i) => i === 0 || n === (numbers[i - 1] ?? 0) + 1);
