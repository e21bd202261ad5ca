import { seenTable } from '../../core/catalogue/catalogue';
import type { GroupsData } from '../../contract/answers-from-server';
import { issue } from '../../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { filterables } from '../../core/record/filter';
import { groupables } from '../../core/record/groups';
import { placeOf } from '../../core/record/places';
import { countGroups, countTotals, MOST_GROUPS } from '../../data/runtime/records/count-groups';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { seenTables, whichRecords, wordsSeen } from './which-records';

interface Asked {
  readonly find: string;
  readonly where: string;
  readonly of?: string | undefined;
  readonly via?: string;
  /** A place; empty for what all of them come to. */
  readonly by: string;
}

/** The records that are asked for, put together by what they have in one place, with what their numbers come to. */
export async function readGroups(
  context: Context,
  key: string,
  { find, where, of, via = 'rows', by: text }: Asked,
): Promise<Result<GroupsData, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, key);
    if (table === null) return fail(notFound('table'));
    const tables = seenTables(catalogue, person);
    const related = of === undefined ? undefined : { record: of, via };
    const words = await wordsSeen(tx, catalogue, context, table, find);
    const which = whichRecords(catalogue, context, table, { words, where, of: related });
    if (!which.ok) return which;
    const { condition } = which.value;
    if (text === '') return ok({ groups: [], more: false, totals: await countTotals(tx, table, condition) });
    const by = groupables(filterables(table, tables)).find((one) => one.text === text);
    const place = placeOf(table, tables, text);
    if (by === undefined || place === null)
      return fail(invalid(issue('unknown-column', ['by'], { name: text })));
    const groups = await countGroups(tx, tables, table, { by, place, where: condition });
    return ok({ groups: groups.slice(0, MOST_GROUPS), more: groups.length > MOST_GROUPS, totals: {} });
  });
}
