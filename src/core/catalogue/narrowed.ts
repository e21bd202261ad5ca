import {
  mayForm,
  rowRulesFor,
  seesColumn,
  SEE_COLUMNS,
  type Catalogue,
  type FormAction,
  type Grant,
  type TableAction,
} from './catalogue';

/** What a token names of one table or form. */
export interface TokenGrant {
  readonly tableId: string | null;
  readonly formId: string | null;
  readonly action: TableAction | FormAction;
}

/** A token as a program asks by it: for whom, and within what. */
export interface Token {
  readonly id: string;
  readonly person: string;
  readonly grants: readonly TokenGrant[];
}

/**
 * The catalogue as a program sees it that acts for somebody: of what they may, what its token names, and
 * nothing by any role. The database holds the same (`slate.token_allows`). What it writes names records of
 * other tables, so it may pick from those, as far as its person may.
 */
export function narrowed(catalogue: Catalogue, { id, person, grants }: Token): Catalogue {
  const { tables, people } = catalogue;
  const mine = people.get(person);
  const writes = grants.filter(({ action }) => action === 'add' || action === 'change');
  const picked = writes.flatMap(({ tableId }) => {
    const table = tables.get(tableId ?? '');
    return [table?.parent, ...(table?.columns ?? []).map(({ target }) => target)].filter(
      (one): one is string => typeof one === 'string',
    );
  });
  const named: readonly TokenGrant[] = [
    ...grants,
    ...[...new Set(picked)].map((tableId) => ({ tableId, formId: null, action: 'pick' as const })),
  ];
  // It sees in a record what its person does.
  const columns = grants.flatMap(({ tableId, action }) => {
    const table = action === 'see' ? tables.get(tableId ?? '') : undefined;
    const seen = [...(table?.columns ?? []), ...(table?.retired ?? [])].filter(
      (column) => column.restricted && table !== undefined && seesColumn(catalogue, person, table, column),
    );
    return seen.length === 0 ? [] : [{ tableId, columns: seen.map((column) => column.id) }];
  });
  const own = { id, formId: null, role: null, groupId: null, personId: person };
  return {
    ...catalogue,
    people: mine === undefined ? people : new Map([...people, [person, { ...mine, roles: [] }]]),
    grants: [
      ...named.flatMap((grant) =>
        held(catalogue, person, grant).map((where): Grant => ({ ...own, ...grant, where, columns: null })),
      ),
      ...columns.map((seen): Grant => ({ ...own, ...seen, action: SEE_COLUMNS, where: null })),
    ],
  };
}

/** With which records a person may do it, by rules; null among them for all. */
function held(
  catalogue: Catalogue,
  person: string,
  { tableId, formId, action }: TokenGrant,
): readonly (string | null)[] {
  if (tableId === null) return mayForm(catalogue, person, action as FormAction, formId ?? '') ? [null] : [];
  return rowRulesFor(catalogue, person, action as TableAction, tableId) ?? [null];
}
