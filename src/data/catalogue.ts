import { sql } from 'drizzle-orm';
import type { Colleague } from '../core/access/rules';
import type { Catalogue, Grant, Group, KnownForm } from '../core/catalogue/catalogue';
import { PEOPLE } from '../core/expression/type';
import type { LinkMapping } from '../core/link/link';
import { withListOf, type ChoiceList } from '../core/table/choice-list';
import type { Column, Table } from '../core/table/model';
import type { Workspace } from '../core/workspace';
import type { Tx } from './connect';

/** Those of the last numbers: transactions that began a moment ago still read the one before. */
const KEPT = 3;
const kept = new Map<string, Catalogue>();

/**
 * The catalogue of a number that this transaction has just read, and whether its role owns the tables. One
 * that it has changed itself is nobody else's, and is not kept.
 */
export async function catalogueAt(tx: Tx, number: string, owns: boolean): Promise<Catalogue> {
  const found = kept.get(number) ?? (await read(tx));
  return owns ? unguarded(found) : found;
}

const asOwned = new WeakMap<Catalogue, Catalogue>();

/** To whoever owns the tables none of their columns is kept from anybody: they are read as they are. */
function unguarded(catalogue: Catalogue): Catalogue {
  if (![...catalogue.tables.values()].some(({ guarded }) => guarded)) return catalogue;
  const tables = [...catalogue.tables].map(
    ([id, table]) => [id, { ...table, guarded: false as const }] as const,
  );
  const owned = asOwned.get(catalogue) ?? { ...catalogue, tables: new Map(tables) };
  asOwned.set(catalogue, owned);
  return owned;
}

/** What `catalogueAt` is asked with. */
export const catalogueNumber = sql`slate.catalogue_at() AS number, NOT row_security_active('slate.history'::regclass) AS owns`;

/** The catalogue as it is now: for whoever holds a lock, or has changed it in this transaction. */
export async function catalogueNow(tx: Tx): Promise<Catalogue> {
  const { rows } = await tx.execute<{ number: string; owns: boolean }>(sql`SELECT ${catalogueNumber}`);
  return catalogueAt(tx, rows[0]?.number ?? '', rows[0]?.owns === true);
}

async function read(tx: Tx): Promise<Catalogue> {
  const { rows } = await tx.execute<{ stored: Stored }>(sql`SELECT slate.read_catalogue() AS stored`);
  const [{ stored } = { stored: null }] = rows;
  if (stored === null) throw new Error('the catalogue could not be read');
  const catalogue = catalogueOf(stored);
  if (!catalogue.number.startsWith('own:')) keep(catalogue);
  return catalogue;
}

function keep(catalogue: Catalogue): void {
  kept.set(catalogue.number, catalogue);
  for (const number of [...kept.keys()].slice(0, -KEPT)) kept.delete(number);
}

/** As `slate.read_catalogue()` gives it. */
interface Stored {
  readonly number: string;
  readonly workspace: Workspace;
  readonly tables: readonly Omit<Table, 'columns' | 'retired' | 'guarded' | 'linked'>[];
  readonly columns: readonly StoredColumn[];
  readonly lists: readonly ChoiceList[];
  readonly links: readonly {
    readonly tableId: string;
    readonly source: string;
    readonly mapping: LinkMapping;
  }[];
  readonly people: readonly Colleague[];
  readonly groups: readonly Group[];
  readonly forms: readonly KnownForm[];
  readonly grants: readonly Grant[];
  readonly writers: Catalogue['writers'];
}

type StoredColumn = Omit<Column, 'list'> & {
  readonly tableId: string;
  readonly listId: string | null;
  readonly retired: boolean;
};

function catalogueOf({
  number,
  workspace,
  tables,
  columns,
  lists,
  links,
  people,
  groups,
  forms,
  grants,
  writers,
}: Stored): Catalogue {
  const byId = <T extends { readonly id: string }>(list: readonly T[]): ReadonlyMap<string, T> =>
    new Map(list.map((one) => [one.id, one]));
  const listsById = byId(lists);
  const columnsOf = new Map<string, StoredColumn[]>();
  for (const column of columns) {
    const own = columnsOf.get(column.tableId);
    if (own === undefined) columnsOf.set(column.tableId, [column]);
    else own.push(column);
  }
  const linkOf = new Map(links.map((link) => [link.tableId, link]));
  const asColumn = ({ tableId, listId, retired, ...column }: StoredColumn): Column =>
    withListOf({ ...column, list: listId === null ? null : { id: listId, label: '' } }, listsById);
  const made = tables.map((table): Table => {
    const own = columnsOf.get(table.id) ?? [];
    return {
      ...table,
      columns: own.filter(({ retired }) => !retired).map(asColumn),
      retired: own.filter(({ retired }) => retired).map(asColumn),
      guarded: own.some(({ restricted }) => restricted) && 'partly',
      linked: table.id === PEOPLE ? directory : linkedBy(linkOf.get(table.id)),
    };
  });
  return {
    number,
    workspace,
    tables: byId(made),
    lists: listsById,
    people: byId(people),
    groups: byId(groups),
    forms: byId(forms),
    grants,
    writers,
  };
}

/** Who is here is said on the page People, and nowhere else. */
const directory: Table['linked'] = { source: 'the directory of people', adds: false, changes: false };

function linkedBy(found: Stored['links'][number] | undefined): Table['linked'] {
  if (found === undefined) return null;
  const { source, mapping } = found;
  return {
    source,
    adds: mapping.t === 'table' && mapping.adds,
    changes: mapping.t === 'table' && mapping.changes,
  };
}
