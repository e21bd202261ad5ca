/** How one person has the columns of a table: which, in what order, how wide, and how many of them stay in sight. */
export interface Look {
  /** Places of the table; null for its own columns. */
  readonly columns: readonly string[] | null;
  /** In pixels, by place. */
  readonly widths: Readonly<Record<string, number>>;
  /** The first so many stay when one scrolls sideways. */
  readonly pinned: number;
}
export const PLAIN_LOOK: Look = { columns: null, widths: {}, pinned: 0 };

export const layouts = ['grid', 'cards', 'calendar'] as const;
export type Layout = (typeof layouts)[number];

/** What a view keeps: which records, in what order, and what is shown of them. */
export interface ViewDesign {
  readonly find: string;
  readonly where: string;
  readonly sort: string;
  /** Places divided by commas; empty for the table's own columns. */
  readonly columns: string;
  /** Places by which records are put together, divided by commas. */
  readonly group: string;
  readonly layout: Layout;
  /** Of a calendar, the day each record stands on. */
  readonly day: string;
  /** What conditions are asked for before anything is shown: places. */
  readonly asks: readonly string[];
}

/** A view as it is kept under a name. */
export interface View {
  readonly label: string;
  /** For whom it is, besides its owner. */
  readonly for: {
    readonly everybody: boolean;
    readonly groups: readonly string[];
    readonly people: readonly string[];
  };
  /** How the table is shown to those who say nothing else. */
  readonly isFirst: boolean;
  readonly design: ViewDesign;
}
export interface KeptView extends View {
  readonly id: string;
  readonly ownerId: string;
  readonly owner: string;
  readonly version: number;
}
/** A view as it is offered. */
export interface OfferedView extends KeptView {
  /** Whether who asks may change it and take it away. */
  readonly mayChange: boolean;
}

/** How records are looked at, as the address says it: a view, with what was changed of it since. */
export interface ViewQuery extends Omit<ViewDesign, 'asks'> {
  readonly view: string | null;
}
export type Asked = Readonly<Partial<Record<keyof ViewQuery, string | undefined>>>;

const PLAIN: ViewDesign = {
  find: '',
  where: '',
  sort: '-number',
  columns: '',
  group: '',
  layout: 'grid',
  day: '',
  asks: [],
};

/**
 * What an address asks for: what it says itself, then what its view keeps, then how this person has the
 * columns. Without a word in it, it is the table's first view. `waits`: its view asks for values first, and
 * the address has none.
 */
export function openedQuery(
  asked: Asked,
  { views, look, known }: { views: readonly KeptView[]; look: Look; known: ReadonlySet<string> },
): { readonly query: ViewQuery; readonly waits: boolean } {
  const isBare = Object.values(asked).every((one) => one === undefined || one === '');
  const view = isBare ? views.find(({ isFirst }) => isFirst) : views.find(({ id }) => id === asked.view);
  const design = view?.design ?? PLAIN;
  // Columns that are gone since are left out; what an address names by itself is refused instead.
  const there = (list: string): string =>
    list
      .split(',')
      .filter((one) => known.has(one.replace(/^-/, '')))
      .join(',');
  const own = view === undefined ? (look.columns ?? []).join(',') : design.columns;
  return {
    query: {
      view: view?.id ?? null,
      find: asked.find ?? design.find,
      where: asked.where ?? design.where,
      sort: asked.sort ?? (there(design.sort) || PLAIN.sort),
      columns: asked.columns ?? there(own),
      group: asked.group ?? there(design.group),
      layout: layouts.find((one) => one === asked.layout) ?? design.layout,
      day: asked.day ?? there(design.day),
    },
    waits: design.asks.length > 0 && asked.where === undefined,
  };
}

/** The address of a query: what the plain table does not say by itself. With a view, all it may say otherwise. */
export function viewAddress(query: ViewQuery): string {
  const { view, ...said } = query;
  const plain: Readonly<Record<string, unknown>> = { ...PLAIN, layout: 'grid' };
  const parts = Object.entries(said).filter(([name, value]) =>
    view === null ? value !== plain[name] : name === 'where' || value !== '',
  );
  const address = new URLSearchParams([...(view === null ? [] : [['view', view]]), ...parts]).toString();
  // A comma says nothing to an address, and is read more easily.
  return address.replaceAll('%2C', ',');
}

/** What of a query is kept in a view. */
export const designOf = ({ view: _, ...design }: ViewQuery, asks: readonly string[]): ViewDesign => ({
  ...design,
  asks,
});
/** Whether something else is shown than a view keeps. */
export const isChanged = (query: ViewQuery, { design }: KeptView): boolean =>
  (['find', 'where', 'sort', 'columns', 'group', 'layout', 'day'] as const).some(
    (name) => query[name] !== design[name],
  );
