import type { Value } from '../expression/value';
import type { Place, RowState } from './cells';
import type { CompiledForm } from './compile-form';

/** What is looked at of a sheet. */
interface Looked {
  readonly form: CompiledForm;
  readonly rows: (group: string) => readonly RowState[];
  /** Where an answer stands that is read from a place. */
  readonly placeFrom: (id: string, place: Place) => Place;
  readonly value: (place: Place) => Value;
  /** What a formula gave at the place of a question. */
  readonly worked: (place: Place, formula: string) => Value;
}

/**
 * Where picks fit their filter no more and are not to stay. What cannot be told yet, because an answer the
 * filter reads is empty, stays.
 */
export const misfitPlaces = (sheet: Looked): Place[] =>
  sheet.form.formulas.flatMap(({ id, what, group, reads }): Place[] => {
    if (what.t !== 'fits' || what.question.misfit !== 'clear') return [];
    const { question } = what;
    const places: Place[] =
      group === null ? [[question.id]] : sheet.rows(group).map((row): Place => [group, row.id, question.id]);
    return places.filter((place) => sheet.worked(place, id) === false && !waits(sheet, reads, place));
  });

const waits = ({ placeFrom, value }: Looked, reads: ReadonlySet<string>, place: Place): boolean =>
  [...reads].some((id) => value(placeFrom(id, place)) === null);
