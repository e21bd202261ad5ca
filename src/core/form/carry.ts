import { isBig, isRecord, type RecordValue, type Value } from '../expression/value';
import { numberText } from '../expression/number';
import { isBlank, type Raw } from './answers';
import { questionAt, type Place } from './cells';
import { issue, type Issue } from '../kernel/issue';
import { kinds } from '../table/kinds/list';
import { kindOf } from './column-kind';
import type { CompiledForm } from './compile-form';
import { groupsOf, fieldsOfForm, type FieldQuestion, type FormDesign } from './design';
import type { TablesById } from './scope';

/** A value of a record as it would be typed. */
function asTyped(value: Value): Raw {
  if (isBig(value)) return numberText(value);
  if (isRecord(value)) return value.id;
  return typeof value === 'string' || typeof value === 'boolean' ? value : null;
}

/**
 * What a pick writes into the answers that copy from it. Without a record, what was copied from the one
 * before is taken away again; what was changed since stays.
 */
export function copiesOf(
  form: CompiledForm,
  place: Place,
  record: RecordValue | null,
  before: RecordValue | null,
  raw: (place: Place) => Raw,
): [Place, Raw][] {
  const lookup = questionAt(place);
  const group = place.length === 3 ? place[0] : null;
  return [...form.fields.values()].flatMap(({ question, group: home }): [Place, Raw][] => {
    const { carry } = question;
    if (carry?.keep !== 'copied' || carry.lookup !== lookup || home !== group) return [];
    const at: Place = place.length === 3 ? [place[0], place[1], question.id] : [question.id];
    if (record !== null) return [[at, asTyped(record.values[carry.column] ?? null)]];
    const copied = before === null ? null : asTyped(before.values[carry.column] ?? null);
    return !isBlank(raw(at)) && raw(at) === copied ? [[at, null]] : [];
  });
}

/** What keeps a question from being brought along: no such lookup in its place, no such column there, or a column of another kind. */
export function carryIssues(design: FormDesign, tables: TablesById): Issue[] {
  const places: (readonly FieldQuestion[])[] = [
    fieldsOfForm(design),
    ...groupsOf(design).map(({ columns }) => columns),
  ];
  return places.flatMap((questions) =>
    questions.flatMap((question) => {
      const { carry } = question;
      if (carry === undefined) return [];
      const facts = { label: question.label };
      const lookup = questions.find(({ id }) => id === carry.lookup);
      const column =
        lookup?.kind === 'lookup'
          ? tables.get(lookup.table)?.columns.find(({ id }) => id === carry.column)
          : undefined;
      if (column === undefined) return [issue('carry-lookup', [question.id, 'carry'], facts)];
      const holds =
        question.kind !== 'calculated' &&
        question.kind !== 'lookup' &&
        column.kind !== 'reference' &&
        kindOf(question).type.t === kinds[column.kind].type.t;
      return holds ? [] : [issue('carry-kind', [question.id, 'carry'], facts)];
    }),
  );
}
