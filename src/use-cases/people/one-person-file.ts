import type { Answers } from '../../core/form/answers';
import { fieldsOfForm, groupsOf, type FormDesign } from '../../core/form/design';
import type { Table } from '../../core/table/model';
import type { Earlier, WholeRecord } from '../../data/runtime/records/one-person';
import type { FileOf, WholeSubmission } from '../../data/system/one-person';

interface Kept {
  readonly workspace: string;
  /** ISO date-time. */
  readonly made: string;
  readonly parts: readonly { readonly table: Table; readonly records: readonly WholeRecord[] }[];
  readonly earlier: readonly Earlier[];
  readonly submissions: readonly WholeSubmission[];
  readonly files: readonly FileOf[];
}

/** All that is kept about somebody, as JSON that a person can read as well: everything is named by its label. */
export function asFile({ workspace, made, parts, earlier, submissions, files }: Kept): string {
  const named = (of: (file: FileOf) => boolean) =>
    files.filter(of).map(({ name, type, size }) => ({ name, type, bytes: size }));
  return JSON.stringify(
    {
      workspace,
      made,
      records: parts.flatMap(({ table, records }) =>
        records.map((record) => ({
          table: table.label,
          number: record.number,
          belongsTo: numberOf(parts, record.parent),
          made: record.made,
          changed: record.changed,
          removed: record.removed,
          values: labelled(table, record.values),
          history: earlier
            .filter(({ recordId }) => recordId === record.id)
            .map(({ change, at, by, after }) => ({ change, at, by, values: byKey(table, after) })),
          files: named(({ recordId }) => recordId === record.id),
        })),
      ),
      submissions: submissions.map(({ id, design, number, state, sender, sentAt, answers }) => ({
        form: design.title,
        number,
        state,
        sentBy: sender,
        sentAt: sentAt?.toISOString() ?? null,
        answers: answered(design, answers),
        files: named(({ submissionId, recordId }) => submissionId === id && recordId === null),
      })),
    },
    null,
    2,
  );
}

const numberOf = (parts: Kept['parts'], id: string | null): string | undefined =>
  parts.flatMap(({ records }) => records).find((record) => record.id === id)?.number;

const columnsOf = ({ columns, retired }: Table) => [...columns, ...retired];

/** What is empty is left out. */
const labelled = (table: Table, values: WholeRecord['values']): Record<string, string> =>
  Object.fromEntries(
    columnsOf(table).flatMap(({ id, label }) => {
      const value = values[id] ?? null;
      return value === null ? [] : [[label, value]];
    }),
  );

const byKey = (table: Table, after: Earlier['after']): Record<string, unknown> =>
  Object.fromEntries(
    columnsOf(table).flatMap(({ key, label }) => {
      const value = after?.[key] ?? null;
      return value === null ? [] : [[label, value]];
    }),
  );

function answered(design: FormDesign, { values, rows }: Answers): Record<string, unknown> {
  const cells = (questions: readonly { id: string; label: string }[], of: Answers['values']) =>
    Object.fromEntries(
      questions.flatMap(({ id, label }) => {
        const value = of[id] ?? null;
        return value === null || value === '' ? [] : [[label, value]];
      }),
    );
  const groups = groupsOf(design).map((group) => [
    group.label,
    (rows[group.id] ?? []).map((row) => cells(group.columns, row.cells)),
  ]);
  return { ...cells(fieldsOfForm(design), values), ...Object.fromEntries(groups) };
}
