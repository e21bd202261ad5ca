import type { GrantInput, SightData, SightsData } from '../../contract/people';
import { peopleHere, rowRulesFor, seenTable, type Catalogue } from '../../core/catalogue/catalogue';
import { forbidden, invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { rowRuleIssues } from '../../core/record/row-rules';
import type { Table } from '../../core/table/model';
import { countSights, type Sight } from '../../data/runtime/records/count-sights';
import { asOwner, impatient } from '../../data/transaction';
import { localTime, type Context } from '../workspace/asking';
import { lookingAs, seenBy } from '../records/which-records';
import { asGrants, maySayWho } from './say-who';

/** People that are told of; more are counted. */
const MOST_TOLD = 12;

/** What people see of a table now, and would see if it were said so: of those for whom it makes a difference. */
export function tryWho(
  context: Context,
  key: string,
  { grants }: { readonly grants: readonly GrantInput[] },
): Promise<Result<SightsData, Refusal>> {
  return asOwner({ person: context.person.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    if (table === null) return fail(notFound('table'));
    if (!maySayWho(catalogue, context, table.id)) return fail(forbidden('design-table'));
    const wanted = asGrants(table.id, grants);
    const issues = rowRuleIssues(catalogue, table, wanted);
    if (issues.length > 0) return fail(invalid(...issues));
    const then = {
      ...catalogue,
      grants: [...catalogue.grants.filter(({ tableId }) => tableId !== table.id), ...wanted],
    };
    const touched = peopleHere(catalogue).filter(({ id }) => isTouched(catalogue, then, id, table));
    const told = touched.slice(0, MOST_TOLD);
    await impatient(tx);
    const now = localTime(catalogue.workspace, context.now);
    const sights = told.map(({ id }): Sight => ({
      me: lookingAs(catalogue, id),
      now: seenBy(catalogue, id, table),
      then: seenBy(then, id, table),
    }));
    const { records, counts } = await countSights(tx, table, catalogue.tables, sights, now);
    return ok({
      records,
      people: told.map(({ id }, i): SightData => ({
        person: id,
        ...(counts[i] ?? { now: 0, then: 0, lost: 0 }),
      })),
      others: touched.length - told.length,
    });
  });
}

const isTouched = (now: Catalogue, then: Catalogue, person: string, { id }: Table): boolean => {
  const [before, after] = [now, then].map((one) => rowRulesFor(one, person, 'see', id));
  return (before?.toSorted().join('\n') ?? null) !== (after?.toSorted().join('\n') ?? null);
};
