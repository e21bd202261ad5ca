import { textsOf } from '../table/kinds/stored-list';
import type { Place } from './cells';
import { questionsOf, type FilesQuestion } from './design';
import type { Sheet } from './sheet';

/** The files that a sheet answers a question with. */
export interface FilesAt {
  readonly question: FilesQuestion;
  readonly place: Place;
  readonly ids: readonly string[];
}

/** All files of a sheet as it is asked now, by the places they answer. */
export function filesIn(sheet: Sheet): FilesAt[] {
  const at = (question: FilesQuestion, place: Place): FilesAt[] => {
    const ids = sheet.isAsked(place) ? textsOf(sheet.value(place)) : [];
    return ids.length === 0 ? [] : [{ question, place, ids }];
  };
  return questionsOf(sheet.form.design).flatMap((one): FilesAt[] => {
    if (one.kind === 'files') return at(one, [one.id]);
    if (one.kind !== 'rows') return [];
    return sheet
      .filledRows(one.id)
      .flatMap((row) =>
        one.columns.flatMap((column) =>
          column.kind === 'files' ? at(column, [one.id, row.id, column.id]) : [],
        ),
      );
  });
}
