import type { Raw } from '../../core/form/answers';
import { retyped } from '../../core/form/cells';
import { isTyped, type LookupQuestion } from '../../core/form/design';
import { answersRead, fitsId } from '../../core/form/lookup-filter';
import type { Sheet } from '../../core/form/sheet';

/** What the filter of a lookup reads, as it is answered now in the form and in the row; undefined where it has none. */
export function givenFor(
  sheet: Sheet,
  { id: lookup }: LookupQuestion,
  row: readonly [group: string, row: string] | null,
): Readonly<Record<string, Raw>> | undefined {
  return givenTo(sheet, fitsId(lookup), row);
}

/** What a condition over the records of a lookup reads. */
export function givenTo(
  sheet: Sheet,
  formula: string,
  row: readonly [group: string, row: string] | null,
): Readonly<Record<string, Raw>> | undefined {
  const tree = sheet.form.formulas.find(({ id }) => id === formula)?.tree ?? null;
  if (tree === null) return undefined;
  return Object.fromEntries(
    answersRead(tree).flatMap((id) => {
      const field = sheet.form.fields.get(id);
      if (field === undefined) return [];
      const place = sheet.placeFrom(id, row);
      const { question } = field;
      const raw = isTyped(question) ? sheet.raw(place) : retyped(question, sheet.value(place));
      return [[id, sheet.isAsked(place) ? raw : null]];
    }),
  );
}
