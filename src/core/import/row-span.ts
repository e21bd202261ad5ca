/** The rows of a sheet that are records: those between the headings and a row of totals, by their numbers in the file, both left out. */
export interface RowSpan {
  readonly after: number;
  readonly before: number;
}

export const everyRow: RowSpan = { after: 0, before: Infinity };

export const isWithin = (row: number, { after, before }: RowSpan): boolean => row > after && row < before;
