import { hasChoices, keptColumns, type Column, type ColumnKind, type Table } from './model';
import { PEOPLE } from '../expression/type';

/** Tables as a Data Package: each a resource with its Table Schema, whose rows stand in a CSV file beside it. */
export interface DataPackage {
  readonly profile: 'tabular-data-package';
  readonly name: string;
  readonly title: string;
  readonly created: string;
  readonly resources: readonly Resource[];
}

export interface Resource {
  readonly name: string;
  readonly path: string;
  readonly profile: 'tabular-data-resource';
  readonly title: string;
  readonly encoding: 'utf-8';
  readonly dialect: { readonly delimiter: ',' };
  readonly schema: Schema;
  /** What Table Schema has no word for: the table as it is designed here, so that it reads back as the same. */
  readonly slateTable: Table;
}

interface Schema {
  readonly fields: readonly Field[];
  readonly primaryKey: 'id';
  readonly missingValues: readonly [''];
  readonly foreignKeys: readonly {
    readonly fields: string;
    readonly reference: { readonly resource: string; readonly fields: 'id' };
  }[];
}

interface Field {
  readonly name: string;
  readonly type: string;
  readonly format?: string;
  readonly title?: string;
  readonly description?: string;
  readonly example?: string;
  readonly constraints?: Readonly<Record<string, unknown>>;
  readonly categories?: readonly { readonly value: string; readonly label: string }[];
}

/** Types and formats of Table Schema. */
const types: Readonly<Record<ColumnKind, { type: string; format?: string }>> = {
  text: { type: 'string' },
  whole: { type: 'integer' },
  decimal: { type: 'number' },
  money: { type: 'number' },
  date: { type: 'date' },
  time: { type: 'time' },
  'date-time': { type: 'datetime', format: '%Y-%m-%d %H:%M:%S' },
  'yes-no': { type: 'boolean' },
  choice: { type: 'string' },
  choices: { type: 'array' },
  files: { type: 'array' },
  reference: { type: 'string', format: 'uuid' },
  'e-mail': { type: 'string', format: 'email' },
  'web-address': { type: 'string', format: 'uri' },
  phone: { type: 'string' },
};

const uuid = { type: 'string', format: 'uuid' } as const;
const instant = { type: 'datetime', format: 'any' } as const;

/** The columns of a table's file, in the order they stand there: physical names. */
export const packagedKeys = ({ parent, columns, retired }: Table): string[] => [
  'id',
  'number',
  ...(parent === null ? [] : ['parent_id', 'position']),
  ...keptColumns({ columns: [...columns, ...retired] }).map(({ key }) => key),
  'created_at',
  'updated_at',
];

const isList = (kind: ColumnKind): boolean => kind === 'choices' || kind === 'files';

/** Where lists stand in its file, which writes them as JSON. */
export const listPlaces = (table: Table): ReadonlySet<number> => {
  const keys = packagedKeys(table);
  return new Set(
    [...table.columns, ...table.retired].flatMap(({ kind, key }) =>
      isList(kind) ? [keys.indexOf(key)] : [],
    ),
  );
};

/**
 * `tables` must hold every table they refer to. Those that refer stand before those they refer to: rows are taken out one table after the
 * other, and what is added meanwhile is then found.
 */
export function dataPackage(
  name: string,
  title: string,
  created: string,
  tables: readonly Table[],
): DataPackage {
  return {
    profile: 'tabular-data-package',
    name,
    title,
    created,
    resources: referringFirst(tables).map((table) =>
      resourceOf(table, new Map(tables.map(({ id, key }) => [id, key]))),
    ),
  };
}

/** A linked table goes out as what it is here: where it is read back there is no source. */
function resourceOf(table: Table, keys: ReadonlyMap<string, string>): Resource {
  const columns = keptColumns({ columns: [...table.columns, ...table.retired] });
  const references = [
    ...(table.parent === null ? [] : [{ key: 'parent_id', target: table.parent }]),
    ...columns.flatMap(({ key, target }) => (target === null ? [] : [{ key, target }])),
  ];
  return {
    name: table.key,
    path: `data/${table.key}.csv`,
    profile: 'tabular-data-resource',
    title: table.label,
    encoding: 'utf-8',
    dialect: { delimiter: ',' },
    slateTable: { ...table, linked: null },
    schema: {
      primaryKey: 'id',
      missingValues: [''],
      fields: [
        { name: 'id', ...uuid, constraints: { required: true, unique: true } },
        { name: 'number', type: 'string', constraints: { required: true, unique: true } },
        ...(table.parent === null
          ? []
          : [
              { name: 'parent_id', ...uuid, constraints: { required: true } },
              { name: 'position', type: 'integer', constraints: { required: true } },
            ]),
        ...columns.map(fieldOf),
        { name: 'created_at', ...instant },
        { name: 'updated_at', ...instant },
      ],
      foreignKeys: references.flatMap(({ key, target }) =>
        keys.has(target)
          ? [{ fields: key, reference: { resource: keys.get(target) ?? '', fields: 'id' as const } }]
          : [],
      ),
    },
  };
}

function fieldOf({ key, kind, label, description, example, required, unique, choices }: Column): Field {
  const constraints = {
    ...(required && { required: true }),
    ...(unique && { unique: true }),
    ...(kind === 'choice' && { enum: choices.map(({ code }) => code) }),
  };
  return {
    name: key,
    ...types[kind],
    title: label,
    ...(description !== '' && { description }),
    ...(example !== '' && { example }),
    ...(Object.keys(constraints).length > 0 && { constraints }),
    ...(hasChoices({ kind }) && {
      categories: choices.map(({ code, label: words }) => ({ value: code, label: words })),
    }),
  };
}

/** A table with all it needs to be read back: those it refers to, those its rows belong to, and the rows that belong to it. */
export function withWhatItNeeds(table: Table, all: ReadonlyMap<string, Table>): Table[] {
  const found = new Map<string, Table>();
  const add = (id: string | null): void => {
    const one = id === null ? undefined : all.get(id);
    if (one === undefined || found.has(one.id)) return;
    found.set(one.id, one);
    for (const next of targetsOf(one)) add(next);
  };
  add(table.id);
  for (const child of all.values()) if (child.parent === table.id) add(child.id);
  return [...all.values()].filter(({ id }) => found.has(id));
}

const targetsOf = ({ parent, columns, retired }: Table): string[] =>
  [parent, ...[...columns, ...retired].map(({ target }) => target)].filter((id) => id !== null);

function referringFirst(tables: readonly Table[]): Table[] {
  const left = new Map(tables.map((table) => [table.id, table]));
  const ordered: Table[] = [];
  while (left.size > 0) {
    // Of tables in a circle any may come first.
    const next =
      [...left.values()].find(({ id }) =>
        [...left.values()].every((other) => other.id === id || !targetsOf(other).includes(id)),
      ) ?? [...left.values()][0];
    if (next === undefined) break;
    ordered.push(next);
    left.delete(next.id);
  }
  return ordered;
}

/** Without the directory of people where nothing refers to it: it is no table that somebody made. */
export const withoutUnusedPeople = (tables: readonly Table[]): readonly Table[] =>
  tables.some((table) => targetsOf(table).includes(PEOPLE))
    ? tables
    : tables.filter(({ id }) => id !== PEOPLE);

/**
 * The people of another workspace are a table of their own here, under an id that is theirs: nobody becomes
 * somebody else by having the same place in a directory.
 */
export function asStrangers(tables: readonly Table[], id: string, key: string): Table[] {
  const there = (target: string | null): string | null => (target === PEOPLE ? id : target);
  const retargeted = (columns: readonly Column[]): Column[] =>
    columns.map((column) => ({ ...column, target: there(column.target) }));
  return tables.map((table) => ({
    ...table,
    ...(table.id === PEOPLE && { id, key, label: `${table.label} (brought in)` }),
    columns: retargeted(table.columns),
    retired: retargeted(table.retired),
  }));
}

/** Why tables of a package cannot be made among those there are. */
export function packageClash(
  packaged: readonly Table[],
  there: readonly Table[],
): { clash: 'tables-there' | 'tables-missing'; tables: string } | null {
  const taken = packaged.filter(({ id, key }) => there.some((one) => one.id === id || one.key === key));
  if (taken.length > 0) return { clash: 'tables-there', tables: taken.map(({ label }) => label).join(', ') };
  const known = new Set([...packaged, ...there].map(({ id }) => id));
  const lost = packaged.filter((table) => targetsOf(table).some((id) => !known.has(id)));
  return lost.length === 0
    ? null
    : { clash: 'tables-missing', tables: lost.map(({ label }) => label).join(', ') };
}
