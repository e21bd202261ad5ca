import type { Cell } from '../../src/core/import/cell';
import { detect } from '../../src/core/import/detect';
import type { Detection } from '../../src/core/import/detection';
import { SheetProfile } from '../../src/core/import/sheet-profile';

export type Sheet = readonly (readonly Cell[])[];

/** What is detected in sheets given as rows of cells, the headings first. */
export function detected(sheets: Readonly<Record<string, Sheet>>): Detection {
  return detect(
    Object.entries(sheets).map(([name, rows]) => {
      const profile = new SheetProfile(name);
      profile.add({ numbers: rows.map((_, i) => i + 1), rows });
      profile.end();
      return profile;
    }),
  );
}

export const many = <T>(n: number, make: (i: number) => T): T[] =>
  Array.from({ length: n }, (_, i) => make(i));

/** Orders with suppliers typed out again and again, beds by their codes, and things side by side; and the beds. */
export const untidy: Readonly<Record<string, Sheet>> = {
  Orders: [
    ['No', 'Bed', 'Ordered on', 'Supplier', 'Phone', 'Thing 1', 'Amount 1', 'Thing 2', 'Amount 2', 'Paid'],
    ...many(36, (i): readonly Cell[] => [
      `O-${i}`,
      i % 9 === 0 ? ` b-${i % 12} ` : `B-${i % 12}`,
      `${(i % 28) + 1}.3.2026`,
      ['Acorn', 'Birch', 'Cedar'][i % 3] ?? '',
      ['01632 960111', '01632 960222', '01632 960333'][i % 3] ?? '',
      `Tool ${i % 11}`,
      String(i % 5),
      i % 2 === 0 ? `Tool ${i % 7}` : '',
      i % 2 === 0 ? '1,5' : '',
      i % 4 === 0 ? 'x' : '',
    ]),
  ],
  Beds: [
    ['Code', 'Name', 'Area (m²)'],
    ...many(12, (i): readonly Cell[] => [`B-${i}`, `Bed number ${i}`, { kind: 'number', text: `${i}.25` }]),
  ],
};
