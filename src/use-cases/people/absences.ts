import type { AbsenceData, AbsenceInput } from '../../contract/absences';
import { mayAdminister } from '../../core/access/rules';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { issue, type Issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import {
  absencesAhead,
  endAbsence,
  putAbsence,
  readAbsence,
  todayThere,
  type AbsenceRow,
} from '../../data/system/absences';
import type { Tx } from '../../data/connect';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';

/**
 * Says when somebody is away and who stands in: of oneself, or of anybody by an administrator. Said again
 * under the same id, it is changed.
 */
export function sayAway(
  context: Context,
  id: string,
  input: AbsenceInput,
): Promise<Result<{ id: string }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    if (!mayManage(context, input.person)) return fail(forbidden('people'));
    const known = await readAbsence(tx, id);
    if (known !== null && known.personId !== input.person) return fail(notFound('person'));
    const others = (await absencesAhead(tx, input.person)).filter((one) => one.id !== id);
    const issues = absenceIssues(input, catalogue, others, await todayThere(tx));
    if (issues.length > 0) return fail(invalid(...issues));
    const { person, from, until, standIn } = input;
    await putAbsence(tx, { id, personId: person, fromDay: from, untilDay: until, standInId: standIn });
    return ok({ id });
  });
}

/** Somebody is back, or does not go after all. Taken out again it changes nothing. */
export function sayBack(context: Context, id: string): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const known = await readAbsence(tx, id);
    if (known === null) return ok(null);
    if (!mayManage(context, known.personId)) return fail(forbidden('people'));
    await endAbsence(tx, id);
    return ok(null);
  });
}

const mayManage = ({ person }: Context, who: string): boolean => who === person.id || mayAdminister(person);

function absenceIssues(
  { person, from, until, standIn }: AbsenceInput,
  { people }: Catalogue,
  others: readonly AbsenceRow[],
  today: string,
): Issue[] {
  const overlapping = others.find(({ fromDay, untilDay }) => fromDay <= until && from <= untilDay);
  return [
    ...(until < from ? [issue('back-before-away', ['until'])] : []),
    ...(until < today ? [issue('away-in-the-past', ['until'])] : []),
    ...(people.get(person)?.ended !== false ? [issue('not-a-colleague', ['person'])] : []),
    ...(people.get(standIn)?.ended !== false ? [issue('not-a-colleague', ['standIn'])] : []),
    ...(standIn === person ? [issue('stands-in-for-self', ['standIn'])] : []),
    ...(overlapping === undefined
      ? []
      : [issue('away-already', ['from'], { from: overlapping.fromDay, until: overlapping.untilDay })]),
  ];
}

/** Absences of today and to come, with names; of one person, or of all. */
export async function absencesWithNames(
  tx: Tx,
  { people }: Pick<Catalogue, 'people'>,
  of?: string,
): Promise<AbsenceData[]> {
  const [rows, today] = [await absencesAhead(tx, of), await todayThere(tx)];
  return rows.map(({ id, personId, fromDay, untilDay, standInId }) => ({
    id,
    person: personId,
    name: people.get(personId)?.name ?? '',
    from: fromDay,
    until: untilDay,
    standIn: standInId,
    standInName: people.get(standInId)?.name ?? '',
    now: fromDay <= today,
  }));
}
