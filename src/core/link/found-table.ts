/** What a look into another database finds of one of its tables or views, as its own catalogue says it. */
export interface FoundTable {
  readonly schema: string;
  readonly name: string;
  readonly comment: string;
  readonly isView: boolean;
  /** As the database estimates them; null where it never counted. */
  readonly records: number | null;
  readonly columns: readonly FoundColumn[];
  /** Names of columns; empty without one. */
  readonly primaryKey: readonly string[];
  readonly uniques: readonly (readonly string[])[];
  readonly references: readonly FoundReference[];
  /** Rules of the table by their names; they go on holding there. */
  readonly rules: readonly string[];
  readonly mayAdd: boolean;
  readonly mayChange: boolean;
}

/** The next value of a sequence of that name, as PostgreSQL looks it up; or a random one. */
export type MadeBy = { readonly t: 'sequence'; readonly name: string } | { readonly t: 'uuid' };

export interface FoundReference {
  readonly columns: readonly string[];
  readonly schema: string;
  readonly table: string;
  readonly to: readonly string[];
}

export interface FoundColumn {
  readonly name: string;
  /** The type under any domain, as PostgreSQL writes it: `numeric(8,2)`, `text[]`. */
  readonly type: string;
  /** The domain it stands under; null for none. */
  readonly domain: string | null;
  /** Of an enumerated type, its labels in order; null otherwise. */
  readonly labels: readonly string[] | null;
  readonly required: boolean;
  /** The expression of its default; null for none. */
  readonly preset: string | null;
  /** How the table there makes its values by itself in a way that can be asked for before a record is added; null for none. */
  readonly made: MadeBy | null;
  /** Calculated there, and never given. */
  readonly generated: boolean;
  readonly comment: string;
  readonly maySee: boolean;
  readonly mayAdd: boolean;
  readonly mayChange: boolean;
}

/** `schema.table`, as people read it. */
export const foundName = ({ schema, name }: Pick<FoundTable, 'schema' | 'name'>): string =>
  `${schema}.${name}`;
