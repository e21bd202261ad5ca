import { fold, nameIn, textOf, type SheetRows } from './cell';
import { hashOf } from './hash';
import { isWithin, type RowSpan } from './row-span';
import { TextRows } from './text-rows';

/** What stands at some places of each row of the span, with its hash without case, spaces and accents; blank cells are none. */
export function eachName(
  some: SheetRows,
  span: RowSpan,
  places: readonly number[],
  see: (text: string, hash: number) => void,
): void {
  const text = some instanceof TextRows ? some : null;
  const numbers = text === null ? some.numbers : [];
  for (let line = 0, count = text?.count ?? numbers.length; line < count; line++) {
    if (!isWithin(text === null ? (numbers[line] ?? 0) : text.numberOf(line), span)) continue;
    for (const at of places) {
      const name = nameIn(
        text === null ? textOf(some.rows[line]?.[at]) : text.textAt(text.placeOf(line, at)),
      );
      if (name !== '') see(name, hashOf(fold(name)));
    }
  }
}
