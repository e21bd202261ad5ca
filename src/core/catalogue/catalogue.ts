import type { Colleague, Role } from '../access/rules';
import type { ChoiceList } from '../table/choice-list';
import type { Column, Table } from '../table/model';
import type { Workspace } from '../workspace';
import { withoutHidden } from './as-seen';

/** What may be done with a table; see `may()` in the database, which its policies ask. */
export const tableActions = ['see', 'add', 'change', 'remove', 'pick', 'design'] as const;
export type TableAction = (typeof tableActions)[number];
/** What may be done with a form. What somebody sent themselves they see always. */
export const formActions = ['fill', 'see-all', 'design'] as const;
export type FormAction = (typeof formActions)[number];
/** That some of the restricted columns of a table are seen by somebody who sees its records. */
export const SEE_COLUMNS = 'see-columns';
export type GrantAction = TableAction | FormAction | typeof SEE_COLUMNS;

/** Whom a grant is for: one of them, or everybody where none is named. */
export interface Subject {
  readonly role: Role | null;
  readonly groupId: string | null;
  readonly personId: string | null;
}

/** Who may do what with a form or a table, where, and with which of its columns. */
export interface Grant extends Subject {
  readonly id: string;
  readonly tableId: string | null;
  readonly formId: string | null;
  readonly action: GrantAction;
  /** FEEL over the columns of the table; null for every record. */
  readonly where: string | null;
  /** Those that are seen, by id; null where it is not about columns. */
  readonly columns: readonly string[] | null;
}

/** People who may do the same things; a group may hold groups. */
export interface Group {
  readonly id: string;
  readonly label: string;
  readonly people: readonly string[];
  readonly groups: readonly string[];
}

/** A form as it is known without its design: who owns it, and the release colleagues fill. */
export interface KnownForm {
  readonly id: string;
  readonly key: string;
  readonly ownerId: string;
  readonly live: { readonly id: string; readonly number: number; readonly formVersion: number } | null;
}

/**
 * What is designed and who may do what, as it was at one number: read once per number and process, and never
 * changed. Whoever changes any of it reads it anew, under the lock that lets nobody else.
 */
export interface Catalogue {
  readonly number: string;
  readonly workspace: Workspace;
  /** By id, in the order of their labels. */
  readonly tables: ReadonlyMap<string, Table>;
  readonly lists: ReadonlyMap<string, ChoiceList>;
  /** By id, in the order of their names; those who have left among them. */
  readonly people: ReadonlyMap<string, Colleague>;
  readonly groups: ReadonlyMap<string, Group>;
  readonly forms: ReadonlyMap<string, KnownForm>;
  readonly grants: readonly Grant[];
  /** Which forms may write to which tables. */
  readonly writers: readonly { readonly tableId: string; readonly formId: string }[];
}

export const tableByKey = ({ tables }: Catalogue, key: string): Table | undefined =>
  [...tables.values()].find((table) => table.key === key);
export const formByKey = ({ forms }: Catalogue, key: string): KnownForm | undefined =>
  [...forms.values()].find((form) => form.key === key);
/** Those who have not left, in the order of their names. */
export const peopleHere = ({ people }: Catalogue): Colleague[] =>
  [...people.values()].filter(({ ended }) => !ended);

/** Whether a person, by id, may do this with a table, if only with some of its records. */
export const may = (catalogue: Catalogue, person: string, action: TableAction, table: string): boolean =>
  heldBy(catalogue, person).has(`table ${action} ${table}`);

/** With which records of a table a person may do this: those of which one of the rules holds; null for all of them. */
export const rowRulesFor = (
  catalogue: Catalogue,
  person: string,
  action: TableAction,
  table: string,
): readonly string[] | null => {
  const rules = heldBy(catalogue, person).get(`table ${action} ${table}`);
  return rules === undefined ? [] : rules;
};

/** Whether a person, by id, may do this with every record of a table. */
export const mayAll = (catalogue: Catalogue, person: string, action: TableAction, table: string): boolean =>
  rowRulesFor(catalogue, person, action, table) === null;

/** Whether a person sees each record of a table there is. The rows of records are seen where those are. */
export function seesAll(catalogue: Catalogue, person: string, { id, parent }: Table): boolean {
  const above = catalogue.tables.get(parent ?? '');
  return (
    rowRulesFor(catalogue, person, 'see', id) === null &&
    (above === undefined || !isLimited(catalogue, person, above))
  );
}

/** Whether a person sees some of its records, and not all. */
export const isLimited = (catalogue: Catalogue, person: string, table: Table): boolean =>
  may(catalogue, person, 'see', table.id) && !seesAll(catalogue, person, table);

/** Whether a person, by id, may do this with a form. Its owner may design it, and administrators may. */
export function mayForm(catalogue: Catalogue, person: string, action: FormAction, form: string): boolean {
  if (heldBy(catalogue, person).has(`form ${action} ${form}`)) return true;
  const { roles = [], ended = true } = catalogue.people.get(person) ?? {};
  return (
    action === 'design' &&
    !ended &&
    (roles.includes('administrator') || catalogue.forms.get(form)?.ownerId === person)
  );
}

/** Whether a person sees what stands in a column of a table, where they see its records. */
export const seesColumn = (
  catalogue: Catalogue,
  person: string,
  table: Pick<Table, 'id'>,
  column: Pick<Column, 'id' | 'restricted'>,
): boolean =>
  !column.restricted ||
  may(catalogue, person, 'design', table.id) ||
  heldBy(catalogue, person).has(`column ${table.id} ${column.id}`);

/** The columns of a table that are not for a person. */
export const hiddenColumns = (catalogue: Catalogue, person: string, table: Table): readonly Column[] =>
  restrictedColumns(table).filter((column) => !seesColumn(catalogue, person, table, column));

const NONE: readonly Column[] = [];
const restricted = new WeakMap<Table, readonly Column[]>();
function restrictedColumns(table: Table): readonly Column[] {
  const found =
    restricted.get(table) ?? [...table.columns, ...table.retired].filter((column) => column.restricted);
  restricted.set(table, found);
  return found.length === 0 ? NONE : found;
}

const shown = new WeakMap<Table, Map<string, Table>>();

/** A table as a person sees it: without the columns that are not for them; whole where that is none of them. */
export function asSeenBy(catalogue: Catalogue, person: string, table: Table): Table {
  if (restrictedColumns(table).length === 0) return table;
  const hidden = hiddenColumns(catalogue, person, table).map(({ id }) => id);
  if (hidden.length === 0 && table.guarded === false) return table;
  // Whatever is kept for a table goes by the table itself, so it is the same one for all who see the same.
  const kept = shown.get(table) ?? new Map<string, Table>();
  shown.set(table, kept);
  const found = kept.get(hidden.join(' ')) ?? withoutHidden(table, (id) => hidden.includes(id));
  kept.set(hidden.join(' '), found);
  return found;
}

/** The tables a person may do any of these with, as they see them, in the order of their labels. */
export const tablesFor = (catalogue: Catalogue, person: string, ...actions: TableAction[]): Table[] =>
  [...catalogue.tables.values()]
    .filter(({ id }) => actions.some((action) => may(catalogue, person, action, id)))
    .map((table) => asSeenBy(catalogue, person, table));

/** Those of which they see every record and all that stands in it: where what is told is told of all of them. */
export const tablesSeenWhole = (catalogue: Catalogue, person: string): Table[] =>
  tablesFor(catalogue, person, 'see').filter(
    (table) => seesAll(catalogue, person, table) && hiddenColumns(catalogue, person, table).length === 0,
  );

/** Their ids. */
export const idsFor = (
  catalogue: Catalogue,
  person: string,
  ...actions: TableAction[]
): ReadonlySet<string> => new Set(tablesFor(catalogue, person, ...actions).map(({ id }) => id));

/** The table of a key, to those who may see it. */
export function seenTable(catalogue: Catalogue, person: string, key: string): Table | null {
  const table = tableByKey(catalogue, key);
  return table !== undefined && may(catalogue, person, 'see', table.id)
    ? asSeenBy(catalogue, person, table)
    : null;
}

/** Whether a form may write to a table: those who design the table say so, and may say otherwise later. */
export const mayWrite = ({ writers }: Catalogue, form: string, table: string): boolean =>
  writers.some(({ formId, tableId }) => formId === form && tableId === table);

/** A catalogue never changes, so what follows from it is calculated once for each person. */
const known = new WeakMap<Catalogue, Map<string, Held>>();
/** What somebody may, with the rules that say for which records; null for all. */
type Held = ReadonlyMap<string, readonly string[] | null>;

function heldBy(catalogue: Catalogue, person: string): Held {
  const found = known.get(catalogue) ?? new Map<string, Held>();
  known.set(catalogue, found);
  const before = found.get(person);
  if (before !== undefined) return before;
  const groups = groupsOf(catalogue, person);
  const held = new Map<string, readonly string[] | null>();
  for (const grant of catalogue.grants.filter((one) => isFor(catalogue, groups, person, one))) {
    const { tableId, formId, action, where, columns } = grant;
    if (action === SEE_COLUMNS) {
      for (const column of columns ?? []) held.set(`column ${tableId ?? ''} ${column}`, null);
      continue;
    }
    const what = tableId === null ? `form ${action} ${formId ?? ''}` : `table ${action} ${tableId}`;
    const rules = held.get(what);
    held.set(what, where === null || rules === null ? null : [...new Set([...(rules ?? []), where])]);
  }
  found.set(person, held);
  return held;
}

function isFor(
  { people }: Catalogue,
  groups: ReadonlySet<string>,
  person: string,
  { role, groupId, personId }: Subject,
): boolean {
  const who = people.get(person);
  if (who === undefined || who.ended) return false;
  if (role === null && groupId === null && personId === null) return true;
  return (
    personId === person ||
    (role !== null && who.roles.includes(role)) ||
    (groupId !== null && groups.has(groupId))
  );
}

/** The groups a person is in, also by groups that are in groups. */
export function groupsOf({ groups }: Pick<Catalogue, 'groups'>, person: string): ReadonlySet<string> {
  const found = new Set(
    [...groups.values()].filter(({ people }) => people.includes(person)).map(({ id }) => id),
  );
  for (const inner of found)
    for (const group of groups.values()) if (group.groups.includes(inner)) found.add(group.id);
  return found;
}
