import {
  mayForm,
  rowRulesFor,
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
  return {
    ...catalogue,
    people: mine === undefined ? people : new Map([...people, [person, { ...mine, roles: [] }]]),
    grants: named.flatMap((grant) =>
      held(catalogue, person, grant).map((where): Grant => ({
        ...grant,
        id,
        role: null,
        groupId: null,
        personId: person,
        where,
        columns: null,
      })),
    ),
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
