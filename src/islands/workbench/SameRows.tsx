import { useState } from 'react';
import { emptyCells, readInto, shown } from '../../core/form/cells';
import { isTyped, type FieldQuestion, type RowsQuestion } from '../../core/form/design';
import { asKept } from '../../core/formats/typed';
import { pastedRaw } from '../../core/form/pasted';
import { speak } from '../../core/wording/speak';

type Cells = Readonly<Record<string, string | boolean | null>>;

interface Props {
  readonly group: RowsQuestion;
  readonly rows: readonly Cells[];
  readonly onChange: (rows: Cells[]) => void;
}

/** Rows that every new sheet begins with, a line each, as they come from a spreadsheet or are typed. */
export function SameRows({ group, rows, onChange }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const columns = group.columns.filter(
    (column) => isTyped(column) && column.kind !== 'lookup' && column.kind !== 'files',
  );
  const text = rows
    .map((cells) =>
      columns
        .map((column) => textOf(column, cells[column.id] ?? null))
        .join(' | ')
        .replace(/[ |]+$/, ''),
    )
    .join('\n');
  return (
    <label className="mb-2 block text-[14px]">
      {speak`a line each, with ${columns.map(({ label }) => label).join(' | ')}`}
      <textarea
        rows={4}
        className="box mt-1"
        value={typed ?? text}
        placeholder={
          columns.length > 1
            ? speak`Morning | 8
Afternoon | 4`
            : speak`Morning
Afternoon`
        }
        onChange={(event) => {
          setTyped(event.target.value);
          onChange(rowsIn(event.target.value, columns));
        }}
        onBlur={() => setTyped(null)}
      />
    </label>
  );
}

const rowsIn = (text: string, columns: readonly FieldQuestion[]): Cells[] =>
  text
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => {
      const parts = line.split(/\t|\|/);
      return Object.fromEntries(
        columns.flatMap((column, i) => {
          const part = parts[i]?.trim() ?? '';
          return part === '' ? [] : [[column.id, pastedRaw(column, asKept(column.kind, part))]];
        }),
      );
    });

/** As it is read, or as it was written where it cannot be. */
function textOf(column: FieldQuestion, raw: string | boolean | null): string {
  const cells = emptyCells();
  readInto(cells, column, raw, new Map());
  const value = cells.values.get(column.id) ?? null;
  return value === null ? String(raw ?? '') : shown(column, value);
}
