import type { PeopleData } from '../../contract/people';
import { mayAdminister } from '../../core/access/rules';
import { forbidden, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { readDirectory, readMembers } from '../../data/system/directory';
import { joined, withSecondStep } from '../../data/system/people';
import { asPerson } from '../../data/transaction';
import { absencesWithNames } from './absences';
import { whoLooked } from './look-as';
import type { Context } from '../workspace/asking';

/** Everybody, and the groups they are in, for administrators. */
export async function openPeople(context: Context): Promise<Result<PeopleData, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const { people, groups, forms } = catalogue;
    const [withPassword, withCodes] = [await joined(tx), await withSecondStep(tx)];
    const [list, listed] = [await readDirectory(tx), await readMembers(tx)];
    return ok({
      me: context.person.id,
      people: [...people.values()]
        .filter(({ outside = false }) => !outside)
        .map((person) => ({
          ...person,
          joined: withPassword.has(person.id),
          asksCode: withCodes.has(person.id),
          listed: listed.get(person.id)?.ended === false,
          forms: [...forms.values()].filter(({ ownerId }) => ownerId === person.id).length,
        })),
      groups: [...groups.values()],
      away: await absencesWithNames(tx, catalogue),
      looked: await whoLooked(tx, null),
      listWaits: list !== null && list.outcome.t !== 'followed',
    });
  });
}
