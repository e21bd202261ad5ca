import { issue } from '../../core/kernel/issue';
import { invalid, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { MOST_SORTS, placeOf, readSorts, type Place } from '../../core/record/places';
import { limits } from '../../core/limits';
import type { Table } from '../../core/table/model';
import type { PlacedSort } from '../../data/runtime/records/keysets';

type Tables = ReadonlyMap<string, Table>;

/** The order that a text says, by its number where it says none; refused where it names what is not there, or not seen. */
export function placedSorts(table: Table, seen: Tables, text: string): Result<PlacedSort[], Refusal> {
  const sorts = readSorts(text === '' ? 'number' : text).slice(0, MOST_SORTS);
  const places = placed(
    table,
    seen,
    sorts.map(({ by }) => by),
    'sort',
  );
  return places.ok
    ? ok(places.value.map((place, i) => ({ place, descending: sorts[i]?.descending ?? false })))
    : places;
}

/** What is shown of records; the columns of their table where nothing is said. */
export const shownPlaces = (table: Table, seen: Tables, text: string): Result<Place[], Refusal> =>
  placed(
    table,
    seen,
    text === '' ? table.columns.map(({ key }) => key) : text.split(',').slice(0, limits.tableColumns),
    'columns',
  );

/** A column of the table itself comes with every record. */
export const isOwn = (place: Place): boolean => place.t === 'column' && place.path.length === 1;

export function placed(
  table: Table,
  seen: Tables,
  texts: readonly string[],
  at: string,
): Result<Place[], Refusal> {
  const found = texts.map((text) => placeOf(table, seen, text));
  const missing = texts.filter((_, i) => found[i] === null);
  return missing.length > 0
    ? fail(invalid(...missing.map((name) => issue('unknown-column', [at], { name }))))
    : ok(found.flatMap((place) => place ?? []));
}
