import { may, seenTable, type Catalogue } from '../../core/catalogue/catalogue';
import { isUuid, newUuid } from '../../core/kernel/ids';
import { issue, under, type Issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { columnIn, type Values } from '../../core/record/column-value';
import type { RecordEdit, StoredRecord } from '../../core/record/edit';
import type { EditInput } from '../../core/record/edit-input';
import { valuesFromJson } from '../../core/record/record-json';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { lockRecords } from '../../data/runtime/records/write-edits';
import { asPerson } from '../../data/transaction';
import { beyondRules } from '../records/apply-edits';
import { editsSaved, refusedEdits } from '../records/save-edits';
import type { Context } from '../workspace/asking';
import { once } from '../workspace/once';
import { requestKey } from './request-key';

type Json = Readonly<Record<string, unknown>>;

/** An edit as a program sends it; `version` is the one it began from, null for whatever it is by now. */
export type SentEdit =
  | { readonly op: 'add'; readonly values: Json }
  | { readonly op: 'change'; readonly id: string; readonly version: number | null; readonly values: Json }
  | { readonly op: 'remove'; readonly id: string; readonly version: number | null };

/** The record of each edit with the version it has now, in their order. */
export type Written = readonly { readonly id: string; readonly version: number }[];

interface Asked {
  /** Names the request: done again under it, it answers the same and changes nothing. */
  readonly key: string;
  readonly edits: readonly SentEdit[];
  /** Where in the request each edit stands, for what is wrong with it. */
  readonly at: (i: number) => Issue['path'];
}

/** Adds, changes and removes records of a table, all of them or none, through the same door as people. */
export async function writeRecords(
  context: Context,
  tableKey: string,
  { key, edits, at }: Asked,
): Promise<Result<Written, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, tableKey);
    if (table === null) return fail(notFound('table'));
    if (edits.some(({ op }) => !may(catalogue, context.person.id, op, table.id)))
      return fail(forbidden('beyond-token'));
    return once(
      tx,
      context,
      requestKey(key, 'write'),
      { operation: 'api-write', of: tableKey, said: edits },
      async () => {
        // A record that is seen and not theirs to change is said to be that, and not to be missing.
        const met = edits.flatMap((edit): RecordEdit[] =>
          edit.op === 'add'
            ? []
            : [{ t: edit.op, table: table.id, id: edit.id, version: 0, before: {}, values: {} }],
        );
        const beyond = await beyondRules(tx, catalogue, context.person.id, met);
        const places = edits.map((edit) => ({ id: edit.op === 'add' ? '' : edit.id }));
        if (beyond.length > 0) return fail(asSent(invalid(...beyond), table, places, at));
        const read = await readEdits(tx, catalogue, table, edits, at);
        if (!read.ok) return read;
        const inputs = read.value;
        const refused = refusedEdits(catalogue, context, inputs);
        if (refused !== null) return fail(asSent(refused, table, inputs, at));
        const saved = await editsSaved(tx, catalogue, context, inputs, []);
        if (!saved.ok) return fail(asSent(saved.error, table, inputs, at));
        const { versions } = saved.value;
        return ok(
          inputs.map((edit) => ({
            id: edit.id,
            // What was changed to what it was already has kept its version.
            version: versions[edit.id] ?? ('version' in edit ? edit.version : 1),
          })),
        );
      },
    );
  });
}

/** The edits of a request, by ids, with the records they meet, which nobody else changes meanwhile. */
async function readEdits(
  tx: Tx,
  { tables }: Catalogue,
  table: Table,
  edits: readonly SentEdit[],
  at: Asked['at'],
): Promise<Result<EditInput[], Refusal>> {
  const issues: Issue[] = [];
  const values = edits.map((edit, i): Values => {
    const given = 'values' in edit ? valuesFromJson(table, edit.values) : ok({});
    if (!given.ok) issues.push(...under(at(i), given.error));
    if (edit.op === 'add' && table.parent !== null && !isId(edit.values['parent_id']))
      issues.push(issue('not-a-record', [...at(i), 'parent_id'], { label: 'The record it is a row of' }));
    return given.ok ? given.value : {};
  });
  if (issues.length > 0) return fail(invalid(...issues));
  const met = edits.flatMap((edit, i) =>
    edit.op === 'add'
      ? []
      : [
          {
            t: 'change' as const,
            table: table.id,
            id: edit.id,
            version: 0,
            before: {},
            values: values[i] ?? {},
          },
        ],
  );
  const stored = await lockRecords(tx, tables, met, () => []);
  const inputs: EditInput[] = [];
  for (const [i, edit] of edits.entries()) {
    const input = asInput(table, edit, values[i] ?? {}, edit.op === 'add' ? undefined : stored.get(edit.id));
    if (!input.ok) return input;
    inputs.push(input.value);
  }
  return ok(inputs);
}

const isId = (value: unknown): value is string => typeof value === 'string' && isUuid(value);

function asInput(
  table: Table,
  edit: SentEdit,
  values: Values,
  stored: StoredRecord | undefined,
): Result<EditInput, Refusal> {
  if (edit.op === 'add') {
    const { parent_id: parent } = edit.values;
    const of = table.parent !== null && isId(parent) ? parent : null;
    return ok({ t: 'add', table: table.id, id: newUuid(), parent: of, values });
  }
  const { id } = edit;
  if (stored === undefined || stored.removed) return fail(notFound('record'));
  const { version } = stored;
  if (edit.version !== null && edit.version !== version) return fail(stale('record-moved-on'));
  if (edit.op === 'remove') return ok({ t: 'remove', table: table.id, id, version });
  const before = Object.fromEntries(Object.keys(values).map((one) => [one, stored.values[one] ?? null]));
  return ok({ t: 'change', table: table.id, id, version, before, values });
}

/** What is wrong, at the place a program knows: the edit in its request, and the key of the column. */
function asSent(
  refusal: Refusal,
  table: Table,
  edits: readonly Pick<EditInput, 'id'>[],
  at: Asked['at'],
): Refusal {
  if (refusal.kind !== 'invalid') return refusal;
  const places = new Map(edits.map(({ id }, i) => [id, at(i)]));
  return invalid(
    ...refusal.issues.map((one): Issue => {
      const [record, column, ...rest] = one.path;
      const keyOf = (id: string | number): string | number => columnIn(table, String(id))?.key ?? id;
      const place = places.get(String(record));
      // What the database refuses knows its column, and not whose.
      if (place === undefined)
        return { ...one, path: record === undefined ? [] : [keyOf(record), ...one.path.slice(1)] };
      const key = column === undefined ? [] : [keyOf(column)];
      return { ...one, path: [...place, ...key, ...rest] };
    }),
  );
}
