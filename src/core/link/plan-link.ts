import { keyFor } from '../form/key';
import { hashOf } from '../import/hash';
import { headingLabel, sheetLabel } from '../import/heading';
import { personalByHeading } from '../import/personal';
import { limits } from '../limits';
import { prefixFor } from '../table/label';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { carriedColumn, plainPreset, type LeftBehind } from './carry-column';
import { foundName, type FoundColumn, type FoundReference, type FoundTable } from './found-table';
import type { MappedColumn, TableMapping } from './link';

/** A table of another database as it would be here, and what of it stays behind. */
export interface LinkPlan {
  readonly table: Table;
  readonly mapping: TableMapping;
  readonly left: readonly LeftBehind[];
}

/** Why a table cannot be linked at all; null when it can. */
export function notLinked(found: FoundTable): 'no-key' | 'key-not-carried' | 'too-many-columns' | null {
  const by = keyOf(found);
  if (by === null) return 'no-key';
  if (found.columns.length > limits.tableColumns) return 'too-many-columns';
  const carried = by.every((name) =>
    found.columns.some((column) => column.name === name && carriedColumn(column).column !== null),
  );
  return carried ? null : 'key-not-carried';
}

/** What tells its records apart: its primary key, or the first set of columns that is unique and always filled. */
function keyOf({ primaryKey, uniques, columns }: FoundTable): readonly string[] | null {
  if (primaryKey.length > 0) return primaryKey;
  return (
    uniques.find((set) =>
      set.every((name) => columns.find((column) => column.name === name)?.required === true),
    ) ?? null
  );
}

/** A table that is linked already, as references to it need it. */
export interface LinkedThere {
  readonly table: Table;
  readonly mapping: TableMapping;
}

/**
 * Plans to link tables of one source. References hold among them and to those of it that are linked already.
 * `idOf` makes a UUID of a name, so that the same plan made twice is the same.
 */
export function planLinks(
  chosen: readonly FoundTable[],
  linked: readonly LinkedThere[],
  there: readonly Table[],
  idOf: (name: string) => string,
): LinkPlan[] {
  const keys = new Set(there.map(({ key }) => key));
  const prefixes = new Set(there.map(({ prefix }) => prefix));
  const drafts = chosen.map((found) => {
    const label = sheetLabel(found.name);
    const key = keyFor(label, keys, 'linked');
    const prefix = prefixFor(label, prefixes);
    keys.add(key);
    prefixes.add(prefix);
    return draftOf(found, { ...plainTable, id: idOf(foundName(found)), key, label, prefix });
  });
  const targets = [...linked, ...drafts];
  return drafts.map((draft) => withReferences(draft, targets));
}

type Draft = LinkPlan & { readonly found: FoundTable };

function draftOf(found: FoundTable, table: Table): Draft {
  const taken = new Set<string>();
  const left: LeftBehind[] =
    found.rules.length === 0 ? [] : [{ column: null, why: 'rules', detail: found.rules.join(', ') }];
  const by = keyOf(found) ?? [];
  const pairs = found.columns.flatMap((one) => {
    const carried = carriedColumn(one);
    left.push(...carried.left);
    if (carried.column === null) return [];
    const label = headingLabel(one.name);
    const key = keyFor(label, taken, 'column');
    taken.add(key);
    const mapped = mappedColumn(one, found);
    if (one.preset !== null && mapped.preset === null && one.made === null)
      left.push({ column: one.name, why: 'filled-there', detail: one.preset });
    const single = [found.primaryKey, ...found.uniques].some(
      (set) => set.length === 1 && set[0] === one.name,
    );
    const column: Column = {
      ...plainColumn,
      ...carried.column,
      id: columnIdOf(table.id, one.name),
      key,
      label,
      description: one.comment,
      required:
        one.required &&
        (mapped.preset !== null || one.preset === null) &&
        !one.generated &&
        one.made === null &&
        mapped.preset === null,
      unique: single,
      personal: personalByHeading(one.name),
    };
    return [{ column, mapped: { ...mapped, column: column.id } }];
  });
  const idOf = (name: string): string[] =>
    pairs.filter(({ mapped }) => mapped.name === name).map(({ column }) => column.id);
  const sets = [found.primaryKey, ...found.uniques]
    .filter((set) => set.length > 1)
    .map((set) => set.flatMap(idOf));
  const mayAdd =
    found.mayAdd && by.every((name) => pairs.some(({ mapped }) => mapped.name === name && mapped.adds));
  const missing = found.columns.some(
    (one) =>
      one.required &&
      one.preset === null &&
      one.made === null &&
      !one.generated &&
      !pairs.some(({ mapped }) => mapped.name === one.name && mapped.adds),
  );
  return {
    found,
    left,
    table: {
      ...table,
      columns: pairs.map(({ column }) => column),
      title: titleOf(
        pairs.map(({ column }) => column),
        by.flatMap(idOf),
      ),
      together: sets.filter(
        (set, i) => set.length > 1 && sets.findIndex((one) => one.join() === set.join()) === i,
      ),
    },
    mapping: {
      t: 'table',
      schema: found.schema,
      name: found.name,
      columns: pairs.map(({ mapped }) => mapped),
      by: by.flatMap(idOf),
      adds: mayAdd && !missing,
      changes: found.mayChange && pairs.some(({ mapped }) => mapped.changes),
    },
  };
}

function mappedColumn(
  one: FoundColumn,
  { isView, mayAdd, mayChange }: FoundTable,
): Omit<MappedColumn, 'column'> {
  const preset = one.preset === null ? null : plainPreset(one.preset);
  const workedOut = one.generated || (one.preset !== null && preset === null && one.made === null);
  return {
    name: one.name,
    type: one.type,
    refers: null,
    preset,
    made: one.made,
    adds: mayAdd && one.mayAdd && !workedOut && !isView,
    changes: mayChange && one.mayChange && !one.generated && !isView,
  };
}

/** What records are known by, and their name where that is another column. */
function titleOf(columns: readonly Column[], by: readonly string[]): string[] {
  const named = columns.find(
    ({ kind, label }) => kind === 'text' && /(^|\s)(name|title|label)$/i.test(label),
  )?.id;
  const known = by.filter((id) =>
    columns.some((column) => column.id === id && (column.kind === 'text' || named === undefined)),
  );
  return [...new Set([...known, ...(named === undefined ? [] : [named])])].slice(0, 3);
}

function withReferences({ found, table, mapping, left }: Draft, targets: readonly LinkedThere[]): LinkPlan {
  const refers = new Map<string, { target: Table; column: string }>();
  const behind: LeftBehind[] = [];
  for (const reference of found.references) {
    const target = targets.find(
      (one) => one.mapping.schema === reference.schema && one.mapping.name === reference.table,
    );
    const [name = ''] = reference.columns;
    if (reference.columns.length > 1)
      behind.push({
        column: reference.columns.join(', '),
        why: 'reference-several',
        detail: `${reference.schema}.${reference.table}`,
      });
    else if (target === undefined)
      behind.push({
        column: name,
        why: 'reference-elsewhere',
        detail: `${reference.schema}.${reference.table}`,
      });
    else refers.set(name, { target: target.table, column: columnReferred(target, reference) });
  }
  const byId = new Map(mapping.columns.map((one) => [one.column, refers.get(one.name)]));
  return {
    left: [...left, ...behind],
    table: {
      ...table,
      title: table.title.filter((id) => byId.get(id) === undefined),
      columns: table.columns.map((column) => asReference(column, byId.get(column.id)?.target)),
    },
    mapping: {
      ...mapping,
      columns: mapping.columns.map((one) => ({ ...one, refers: byId.get(one.column)?.column ?? null })),
    },
  };
}

const columnReferred = ({ mapping }: LinkedThere, { to }: FoundReference): string =>
  mapping.columns.find(({ name }) => name === to[0])?.column ?? '';
const asReference = (column: Column, target: Table | undefined): Column =>
  target === undefined
    ? column
    : {
        ...column,
        kind: 'reference',
        target: target.id,
        decimals: null,
        choices: [],
        personal: null,
        label: column.label.replace(/\s+(id|code|key|no)$/i, ''),
      };

const columnIdOf = (table: string, name: string): string => `c${hashOf(`${table}\n${name}`).toString(36)}`;
