import { fold, nameIn, textOf, type SheetRows } from './cell';
import { hashOf } from './hash';
import { TextRows } from './text-rows';

/** What stands at some places of each row below the headings, with its hash without case, spaces and accents; blank cells are none. */
export function eachName(
  some: SheetRows,
  headerRow: number,
  places: readonly number[],
  see: (text: string, hash: number) => void,
): void {
  const text = some instanceof TextRows ? some : null;
  const numbers = text === null ? some.numbers : [];
  for (let line = 0, count = text?.count ?? numbers.length; line < count; line++) {
    if ((text === null ? (numbers[line] ?? 0) : text.numberOf(line)) <= headerRow) continue;
    for (const at of places) {
      const name = nameIn(
        text === null ? textOf(some.rows[line]?.[at]) : text.textAt(text.placeOf(line, at)),
      );
      if (name !== '') see(name, hashOf(fold(name)));
    }
  }
}
