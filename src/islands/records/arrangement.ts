import { ownPlace, type Place } from '../../core/record/places';
import { isCalculated, isTypedIn, type Column } from '../../core/table/model';
import { speak } from '../../core/wording/speak';

/** How the columns of a grid stand. */
export interface Arrangement {
  readonly columns: readonly Column[];
  /** What each is sorted by, by its id. */
  readonly by: (column: Column) => string;
  /** Pixels. */
  readonly widthOf: (column: Column) => number;
  /** The first so many stay when one scrolls sideways. */
  readonly pinned: number;
  /** Columns that are not typed in: what other records hold, and what is calculated. By id, with the reason. */
  readonly locked: ReadonlyMap<string, string>;
}

export const NUMBER_WIDTH = 148;
export const [LEAST_WIDTH, MOST_WIDTH] = [60, 900];

/** In pixels; what is longer is cut, and whole in the margin. */
const widths: Readonly<Partial<Record<Column['kind'], number>>> = {
  whole: 110,
  decimal: 120,
  money: 130,
  date: 150,
  time: 90,
  'date-time': 190,
  'yes-no': 100,
  choice: 150,
  reference: 200,
};

export function arranged(
  places: readonly Place[],
  own: Readonly<Record<string, number>>,
  pinned: number,
): Arrangement {
  const texts = new Map(places.map((place) => [place.column.id, place.text]));
  const by = (column: Column): string => texts.get(column.id) ?? column.key;
  return {
    columns: places.map(({ column }) => column),
    by,
    widthOf: (column) => own[by(column)] ?? widths[column.kind] ?? 200,
    pinned: Math.min(pinned, places.length),
    locked: new Map(places.flatMap((place) => (isOwn(place) ? [] : [[place.column.id, lockedWords(place)]]))),
  };
}

const isOwn = (place: Place): boolean =>
  place.t === 'column' && place.path.length === 1 && isTypedIn(place.column);

const lockedWords = (place: Place): string => {
  switch (place.t) {
    case 'column':
      if (place.path.length === 1)
        return isCalculated(place.column)
          ? speak`This is worked out from the others.`
          : speak`This is written by forms and imports alone.`;
      return speak`This is of the record under ${place.path[0]?.label ?? ''}; change it there.`;
    case 'rows':
      return speak`This is counted from its rows.`;
    case 'stamp':
      return speak`This comes by itself.`;
  }
};

/** The columns of a table as they are, for a grid that nobody arranges. */
export const plainArrangement = (columns: readonly Column[]): Arrangement =>
  arranged(columns.map(ownPlace), {}, 0);

/** A column by its place among all, and where it stands. */
export interface DrawnColumn {
  readonly at: number;
  readonly style: { readonly left: number; readonly width: string };
}

/** The number, and the columns that stay beside it. */
export interface Stays {
  readonly width: number;
  readonly columns: readonly DrawnColumn[];
}

export function pinnedColumns(columns: readonly Column[], widthOf: (column: Column) => number): Stays {
  const drawn: DrawnColumn[] = [];
  let left = NUMBER_WIDTH;
  for (const [at, column] of columns.entries()) {
    drawn.push({ at, style: { left, width: `${widthOf(column)}px` } });
    left += widthOf(column);
  }
  return { width: left, columns: drawn };
}
