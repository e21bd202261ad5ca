import type { Person, Role } from '../access/rules';
import type { ChoiceList } from '../table/choice-list';
import type { Table } from '../table/model';

/** What may be done with a table; see `may()` in the database, which its policies ask. */
export type TableAction = 'see' | 'pick' | 'design' | 'add' | 'change' | 'remove';

/** Who may do what with a table: a role or one person. */
export interface Grant {
  readonly tableId: string;
  readonly role: Role | null;
  readonly personId: string | null;
  readonly action: TableAction;
}

/** A form as it is known without its design: who owns it, and the release colleagues fill. */
export interface KnownForm {
  readonly id: string;
  readonly key: string;
  readonly ownerId: string;
  readonly live: { readonly id: string; readonly number: number; readonly formVersion: number } | null;
}

/**
 * What is designed and who may do what, as it was at one number: read once per number and process, and never changed. Whoever changes any of it reads
 * it anew, under the lock that lets nobody else.
 */
export interface Catalogue {
  readonly number: string;
  /** By id, in the order of their labels. */
  readonly tables: ReadonlyMap<string, Table>;
  readonly lists: ReadonlyMap<string, ChoiceList>;
  /** By id, in the order of their names. */
  readonly people: ReadonlyMap<string, Person>;
  readonly forms: ReadonlyMap<string, KnownForm>;
  readonly grants: readonly Grant[];
}

export const tableByKey = ({ tables }: Catalogue, key: string): Table | undefined =>
  [...tables.values()].find((table) => table.key === key);
export const formByKey = ({ forms }: Catalogue, key: string): KnownForm | undefined =>
  [...forms.values()].find((form) => form.key === key);

/** Whether a person, by id, may do this with a table. */
export function may(catalogue: Catalogue, person: string, action: TableAction, table: string): boolean {
  return mayAt(catalogue, person, action).has(table);
}

/** The tables a person may do any of these with, in the order of their labels. */
export const tablesFor = (catalogue: Catalogue, person: string, ...actions: TableAction[]): Table[] =>
  [...catalogue.tables.values()].filter(({ id }) =>
    actions.some((action) => may(catalogue, person, action, id)),
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
  return table !== undefined && may(catalogue, person, 'see', table.id) ? table : null;
}

/** A catalogue never changes, so what follows from it is worked out once. */
const known = new WeakMap<Catalogue, Map<string, ReadonlySet<string>>>();

function mayAt(catalogue: Catalogue, person: string, action: TableAction): ReadonlySet<string> {
  const found = known.get(catalogue) ?? new Map<string, ReadonlySet<string>>();
  known.set(catalogue, found);
  const at = `${action} ${person}`;
  const tables =
    found.get(at) ??
    new Set(
      catalogue.grants
        .filter((grant) => grant.action === action && holds(catalogue, person, grant))
        .map(({ tableId }) => tableId),
    );
  found.set(at, tables);
  return tables;
}

const holds = ({ people }: Catalogue, person: string, { role, personId }: Grant): boolean =>
  personId === person || (role !== null && people.get(person)?.roles.includes(role) === true);
