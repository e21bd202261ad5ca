import type { GrantInput, WhoData } from '../../contract/people';
import { mayAdminister } from '../../core/access/rules';
import {
  groupsOf,
  may,
  mayForm,
  peopleHere,
  seenTable,
  tablesFor,
  type Catalogue,
  type Grant,
} from '../../core/catalogue/catalogue';
import { issue, type Issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { restrictionIssues } from '../../core/record/restricted';
import { rowRuleIssues } from '../../core/record/row-rules';
import type { Table } from '../../core/table/model';
import { catalogueNow } from '../../data/catalogue';
import type { Tx } from '../../data/connect';
import { settleFormulas } from '../../data/runtime/tables/calculated';
import { patientInTurn, settleRules } from '../../data/runtime/tables/row-rules';
import { askWordsIndexes } from '../../data/runtime/records/find-records';
import { noteRestricted } from '../../data/runtime/tables/shown';
import { oneTableChangeAtATime } from '../../data/runtime/tables/tables';
import { putGrants } from '../../data/system/people';
import { asOwner, asPerson } from '../../data/transaction';
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
              { table, tables: namedBy(catalogue, context.person.id, table) },
            ),
          ),
    );
  });
}

/** The tables that conditions over a table's records may look into, of those whoever asks sees. */
const namedBy = (catalogue: Catalogue, person: string, { columns }: Table): Table[] =>
  tablesFor(catalogue, person, 'see').filter(({ id }) => columns.some(({ target }) => target === id));

export const maySayWho = (catalogue: Catalogue, { person }: Context, table: string): boolean =>
  mayAdminister(person) || may(catalogue, person.id, 'design', table);

/** Whoever may not change it is told of those who are named, and of nobody else. */
function whoData(
  catalogue: Catalogue,
  on: (grant: Grant) => boolean,
  mayChange: boolean,
  records: WhoData['records'] = null,
): WhoData {
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
    records,
  };
}

interface SaidWho {
  readonly grants: readonly GrantInput[];
  /** The ids of what stood there when they began. */
  readonly seen: readonly string[];
  /** Of a table: the columns that are not for everybody who sees it, by id; those that are now where it is not said. */
  readonly restricted?: readonly string[] | undefined;
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
    return (await putGrants(tx, { form: id }, grants, seen)) ? ok(null) : fail(stale('who-changed'));
  });
}

/** Rules become policies of the table, which the owner role writes; all else is said by whoever says it. */
export async function sayWhoOfTable(
  context: Context,
  key: string,
  { grants, seen, restricted }: SaidWho,
): Promise<Result<null, Refusal>> {
  const asking = { person: context.person.id };
  const said = async (tx: Tx, catalogue: Catalogue): Promise<Result<Table, Refusal>> => {
    const table = catalogue.tables.get(seenTable(catalogue, context.person.id, key)?.id ?? '');
    if (table === undefined) return fail(notFound('table'));
    if (!maySayWho(catalogue, context, table.id)) return fail(forbidden('design-table'));
    const issues = [
      ...grantIssues(catalogue, grants),
      ...ruleIssuesOf(catalogue, table, grants),
      ...columnIssues(catalogue, table, grants, restricted),
    ];
    if (issues.length > 0) return fail(invalid(...issues));
    return (await putGrants(tx, { table: table.id }, grants, seen)) ? ok(table) : fail(stale('who-changed'));
  };
  if (restricted === undefined && grants.every(({ where = null }) => where === null)) {
    const plain = await asPerson(asking, said);
    return plain.ok ? ok(null) : plain;
  }
  return asOwner(asking, async (tx) => {
    await patientInTurn(tx);
    // What a rule reads must not change while it is written.
    const table = await said(tx, await oneTableChangeAtATime(tx));
    if (!table.ok) return table;
    if (restricted !== undefined) await restrict(tx, context, table.value, restricted);
    await settleRules(tx, await catalogueNow(tx), [table.value.id]);
    return ok(null);
  });
}

/** Whatever looks into the table is made anew, to look at it as whoever asks sees it. */
async function restrict(
  tx: Tx,
  { person }: Context,
  table: Table,
  restricted: readonly string[],
): Promise<void> {
  const before = [...table.columns, ...table.retired].filter((column) => column.restricted);
  if (before.length === restricted.length && before.every(({ id }) => restricted.includes(id))) return;
  await noteRestricted(tx, table.id, restricted);
  const catalogue = await catalogueNow(tx);
  await settleFormulas(tx, [table], catalogue.tables);
  // What everybody finds by words is another text now. Who cannot see the table any more cannot ask for its index.
  const after = catalogue.tables.get(table.id);
  if (after !== undefined && may(catalogue, person.id, 'see', after.id)) await askWordsIndexes(tx, [after]);
}

/** What is restricted can be, and those who see it besides see what is. */
function columnIssues(
  catalogue: Catalogue,
  table: Table,
  grants: readonly GrantInput[],
  restricted: readonly string[] | undefined,
): Issue[] {
  const all = [...table.columns, ...table.retired];
  const kept = restricted ?? all.filter((column) => column.restricted).map(({ id }) => id);
  const named = new Set(grants.flatMap(({ columns }) => columns ?? []));
  const others = catalogue.grants.filter(({ tableId }) => tableId !== table.id);
  const said = { ...catalogue, grants: [...others, ...asGrants(table.id, grants)] };
  return [
    ...restrictionIssues(said, table, new Set(kept)),
    ...[...named]
      .filter((id) => !kept.includes(id))
      .map((id) => issue('unknown-column', ['grants', id], { name: id })),
  ];
}

const ruleIssuesOf = (catalogue: Catalogue, table: Table, grants: readonly GrantInput[]): Issue[] =>
  rowRuleIssues(catalogue, table, asGrants(table.id, grants));

/** As they would stand. */
export const asGrants = (table: string, grants: readonly GrantInput[]): Grant[] =>
  grants.map((grant) => ({ id: '', tableId: table, formId: null, columns: null, where: null, ...grant }));

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
