import { mayAdminister, type Role } from '../../core/access/rules';
import { may, SEE_COLUMNS, type Catalogue, type Grant } from '../../core/catalogue/catalogue';
import { forbidden, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { personalWords } from '../../core/wording/proposal-sentence';
import { keptColumns, type Table } from '../../core/table/model';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { speak, spoken } from '../../core/wording/speak';

/** A table that holds something about people. */
export interface PersonalTable {
  readonly label: string;
  /** Where its records are looked at; null where whoever asks does not see them. */
  readonly path: string | null;
  readonly columns: readonly {
    readonly label: string;
    readonly what: string;
    readonly isRetired: boolean;
    /** Of a restricted column, who sees it of those who see the table; null where that is all of them. */
    readonly seenBy: readonly string[] | null;
  }[];
  /** Who sees its records, in words; and who sees some of them. */
  readonly seenBy: readonly string[];
  readonly partlyBy: readonly string[];
}

/** Where something about people is kept, and who sees it, for administrators. Nothing of what is kept leaves. */
export function personalData({ person }: Context): Promise<Result<PersonalTable[], Refusal>> {
  if (!mayAdminister(person)) return Promise.resolve(fail(forbidden('people')));
  return asPerson({ person: person.id }, (_, catalogue) =>
    Promise.resolve(
      ok(
        [...catalogue.tables.values()].flatMap((table) => {
          const told = tableOf(catalogue, person.id, table);
          return told.columns.length === 0 ? [] : [told];
        }),
      ),
    ),
  );
}

function tableOf(catalogue: Catalogue, person: string, table: Table): PersonalTable {
  const see = catalogue.grants.filter(({ tableId, action }) => tableId === table.id && action === 'see');
  const named = (some: boolean): string[] => [
    ...new Set(see.filter(({ where }) => (where !== null) === some).map((grant) => nameOf(catalogue, grant))),
  ];
  const all = named(false);
  const columns = [
    ...keptColumns(table).map((column) => ({ column, isRetired: false })),
    ...table.retired.map((column) => ({ column, isRetired: true })),
  ];
  return {
    label: table.label,
    path: may(catalogue, person, 'see', table.id) ? `/tables/${table.key}` : null,
    columns: columns.flatMap(({ column: { id, label, personal, restricted }, isRetired }) =>
      personal === null
        ? []
        : [
            {
              label,
              what: personalWords()[personal],
              isRetired,
              seenBy: restricted ? columnSeenBy(catalogue, table, id) : null,
            },
          ],
    ),
    // Beside everybody nobody else need be named.
    seenBy: all.includes(EVERYBODY) ? [EVERYBODY] : all,
    partlyBy: named(true).filter((one) => !all.includes(EVERYBODY) && !all.includes(one)),
  };
}

const columnSeenBy = (catalogue: Catalogue, { id }: Table, column: string): string[] => [
  ...new Set(
    catalogue.grants
      .filter(
        ({ tableId, action, columns }) =>
          tableId === id && (action === 'design' || (action === SEE_COLUMNS && columns?.includes(column))),
      )
      .map((grant) => nameOf(catalogue, grant)),
  ),
];

const EVERYBODY = 'everybody';
const roleNames = spoken((): Readonly<Record<Role, string>> => ({
  owner: speak`all who design forms`,
  steward: speak`all who see to the tables`,
  administrator: speak`administrators`,
  colleague: EVERYBODY,
}));

const nameOf = ({ groups, people }: Catalogue, { role, groupId, personId }: Grant): string =>
  role !== null
    ? roleNames()[role]
    : groupId !== null
      ? (groups.get(groupId)?.label ?? 'a group')
      : personId !== null
        ? (people.get(personId)?.name ?? speak`somebody`)
        : EVERYBODY;
