import Big from 'big.js';
import { kinds } from '../table/kinds/list';
import { fold, nameIn, textOf, tidy, type Cell } from './cell';
import { reader } from './convert';
import type { Decisions } from './decisions';
import type { Detection } from './detection';
import type { PlannedColumn, PlannedTable } from './import-plan';
import { totalsId } from './proposals';

/** A cell as it will be shown once it is kept; with `trouble`, as it stands in the sheet, for it does not fit. */
export interface PreviewCell {
  readonly text: string;
  readonly trouble: boolean;
}

/** Of a column, whether it is shown as it is written, and what of it is not found where it should be. */
export interface Preview {
  readonly asItStands: (at: number) => boolean;
  readonly notThere: (at: number) => readonly string[];
}

const plainly: Preview = { asItStands: () => false, notThere: () => [] };

/** The first rows a table will have, made of the first rows of its sheet. References show what they name. */
export function previewRows(
  { rows: source, columns }: PlannedTable,
  samples: readonly (readonly Cell[])[],
  most: number,
  zone: string,
  { asItStands, notThere }: Preview = plainly,
): PreviewCell[][] {
  const readers = columns.map((planned) => ({
    planned,
    read: planned.finds === null && !planned.at.some(asItStands) ? reader(planned, zone) : null,
    missing: new Set(
      planned.finds === null || planned.finds.adds ? [] : planned.at.flatMap(notThere).map(fold),
    ),
  }));
  const made: PreviewCell[][] = [];
  const seen = new Set<string>();
  for (const row of samples) {
    if (source.t === 'distinct') {
      const name = fold(nameIn(textOf(row[source.by])));
      if (name === '' || seen.has(name)) continue;
      seen.add(name);
    }
    for (let time = 0; time < (source.t === 'numbered' ? source.times : 1); time++) {
      if (source.t === 'numbered' && columns.every(({ at }) => tidy(textOf(row[at[time] ?? -1])) === ''))
        continue;
      made.push(
        readers.map(({ planned, read, missing }) =>
          shown(planned, read, missing, row[planned.at[time] ?? -1]),
        ),
      );
      if (made.length === most) return made;
    }
  }
  return made;
}

function shown(
  { column, reading }: PlannedColumn,
  read: ReturnType<typeof reader> | null,
  missing: ReadonlySet<string>,
  cell: Cell | undefined,
): PreviewCell {
  const text = tidy(textOf(cell));
  if (reading.empty?.includes(fold(text)) === true) return { text: '', trouble: false };
  if (read === null) return { text, trouble: missing.has(fold(text)) };
  const converted = read(cell);
  if (!('value' in converted)) return { text, trouble: text !== '' };
  if (converted.value === null) return { text: '', trouble: false };
  const isNumber = kinds[column.kind].type.t === 'number';
  return {
    text: kinds[column.kind].show(
      column.kind === 'yes-no'
        ? converted.value === 'true'
        : isNumber
          ? new Big(converted.value)
          : converted.value,
      column,
    ),
    trouble: false,
  };
}

/** How many records a planned table will have, as far as the sheet tells. */
export function recordsOf(
  { rows, sheet, columns }: PlannedTable,
  detection: Detection,
  { declined }: Pick<Decisions, 'declined'> = { declined: [] },
): number {
  const from = detection.sheets.find(({ name }) => name === sheet);
  if (from === undefined) return 0;
  const nameAt = (at: number | undefined) => from.columns.find((one) => one.at === at)?.name ?? '';
  if (rows.t === 'distinct')
    return from.repeatedGroups.find(({ by }) => by === nameAt(rows.by))?.records ?? 0;
  if (rows.t === 'numbered')
    return (
      from.numberedColumns.find(({ stems }) =>
        stems.some((one) => one.columns.includes(nameAt(columns[0]?.at[0]))),
      )?.rows ?? 0
    );
  return from.rows + (from.totals && declined.includes(totalsId(sheet)) ? 1 : 0);
}
