import type { GrantInput, WhoData } from '../../contract/people';
import { mayAdminister } from '../../core/access/rules';
import {
  groupsOf,
  may,
  mayForm,
  peopleHere,
  seenTable,
  type Catalogue,
  type Grant,
} from '../../core/catalogue/catalogue';
import { issue, type Issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { putGrants } from '../../data/system/people';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';

/** Who may do what with a form, for those who design it. */
export function whoOfForm(context: Context, id: string): Promise<Result<WhoData, Refusal>> {
  return asPerson({ person: context.person.id }, (_, catalogue) =>
    Promise.resolve(
      catalogue.forms.has(id) && mayForm(catalogue, context.person.id, 'design', id)
        ? ok(whoData(catalogue, ({ formId }) => formId === id, true))
        : fail(notFound('form')),
    ),
  );
}

/** Who may do what with a table, for those who see it. */
export function whoOfTable(context: Context, key: string): Promise<Result<WhoData, Refusal>> {
  return asPerson({ person: context.person.id }, (_, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    return Promise.resolve(
      table === null
        ? fail(notFound('table'))
        : ok(
            whoData(
              catalogue,
              ({ tableId }) => tableId === table.id,
              maySayWho(catalogue, context, table.id),
            ),
          ),
    );
  });
}

const maySayWho = (catalogue: Catalogue, { person }: Context, table: string): boolean =>
  mayAdminister(person) || may(catalogue, person.id, 'design', table);

/** Whoever may not change it is told of those who are named, and of nobody else. */
function whoData(catalogue: Catalogue, on: (grant: Grant) => boolean, mayChange: boolean): WhoData {
  const here = peopleHere(catalogue);
  const grants = catalogue.grants.filter(on);
  const isShown = (id: string): boolean =>
    mayChange || grants.some(({ personId, groupId }) => personId === id || groupId === id);
  return {
    grants,
    people: here
      .filter(({ id }) => isShown(id))
      .map(({ id, name, place, roles }) => ({ id, name, place, roles })),
    groups: [...catalogue.groups.values()]
      .filter(({ id }) => isShown(id))
      .map(({ id, label }) => ({
        id,
        label,
        people: mayChange
          ? here.filter((one) => groupsOf(catalogue, one.id).has(id)).map((one) => one.id)
          : [],
      })),
    mayChange,
  };
}

interface SaidWho {
  readonly grants: readonly GrantInput[];
  /** The ids of what stood there when they began. */
  readonly seen: readonly string[];
}

export function sayWhoOfForm(
  context: Context,
  id: string,
  { grants, seen }: SaidWho,
): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    if (!catalogue.forms.has(id) || !mayForm(catalogue, context.person.id, 'design', id))
      return fail(notFound('form'));
    const issues = grantIssues(catalogue, grants);
    if (issues.length > 0) return fail(invalid(...issues));
    const all = withConditions(catalogue, ({ formId }) => formId === id, grants);
    return (await putGrants(tx, { form: id }, all, seen)) ? ok(null) : fail(stale('who-changed'));
  });
}

export function sayWhoOfTable(
  context: Context,
  key: string,
  { grants, seen }: SaidWho,
): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    if (table === null) return fail(notFound('table'));
    if (!maySayWho(catalogue, context, table.id)) return fail(forbidden('design-table'));
    const issues = grantIssues(catalogue, grants);
    if (issues.length > 0) return fail(invalid(...issues));
    const all = withConditions(catalogue, ({ tableId }) => tableId === table.id, grants);
    return (await putGrants(tx, { table: table.id }, all, seen)) ? ok(null) : fail(stale('who-changed'));
  });
}

/** What is granted for some records only is not said here, and stays. */
const withConditions = (
  { grants: known }: Catalogue,
  on: (grant: Grant) => boolean,
  grants: readonly GrantInput[],
) => [...grants, ...known.filter((grant) => on(grant) && grant.where !== null)];

/** Whom it is said of must be there, and somebody must be left who may say it again. */
function grantIssues({ people, groups }: Catalogue, grants: readonly GrantInput[]): Issue[] {
  const gone = grants.some(
    ({ personId, groupId }) =>
      (personId !== null && people.get(personId)?.ended !== false) ||
      (groupId !== null && !groups.has(groupId)),
  );
  return [
    ...(gone ? [issue('not-a-colleague', ['grants'])] : []),
    ...(grants.some(({ action }) => action === 'design') ? [] : [issue('nobody-designs', ['grants'])]),
  ];
}
