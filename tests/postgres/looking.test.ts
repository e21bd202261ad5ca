import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { beds } from '../../demo/tables';
import { enter, leave } from '../../src/use-cases/people/sign-in';
import { lookAs, lookBack, whoLookedAsMe } from '../../src/use-cases/people/look-as';
import { openPeople } from '../../src/use-cases/people/read-people';
import { whileLooking, whoIsSignedIn } from '../../src/use-cases/people/who-asks';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { as, must, newId, refusal, useWorld } from '../support/world';

/** An administrator looks as somebody else: sees what they see, changes nothing, and is told of. */
const world = useWorld();
const maren = personNamed('Maren').id;

async function signedIn(name: string) {
  const { cookies } = await must(
    enter(
      { email: personNamed(name).email, password: 'not-needed-here' },
      { address: '10.1.0.1', headers: new Headers() },
    ),
  );
  return {
    address: '',
    headers: new Headers({ cookie: cookies.map((one) => one.split(';')[0]).join('; ') }),
  };
}

describe('looking as somebody', () => {
  it('is for administrators, in one session, until they stop', async () => {
    const [mine, other] = [await signedIn('Wren'), await signedIn('Wren')];
    expect((await refusal(lookAs(as('Ines'), maren, await signedIn('Ines')))).kind).toBe('forbidden');
    expect((await refusal(lookAs(as('Wren'), newId(), mine))).kind).toBe('not-found');
    expect((await refusal(lookAs(as('Wren'), as('Wren').person.id, mine))).kind).toBe('not-found');
    // Of a session that is somebody else's nothing is said.
    expect((await refusal(lookAs(as('Wren'), maren, await signedIn('Ines')))).kind).toBe('not-found');
    await must(lookAs(as('Wren'), maren, mine));
    expect(await whoIsSignedIn(mine.headers)).toMatchObject({
      person: { id: maren, roles: ['colleague'] },
      lookedBy: { name: 'Wren Calloway' },
    });
    expect(await whoIsSignedIn(other.headers)).toMatchObject({
      person: { name: 'Wren Calloway' },
      lookedBy: null,
    });
    await must(lookBack(as('Maren'), mine));
    expect(await whoIsSignedIn(mine.headers)).toMatchObject({
      person: { name: 'Wren Calloway' },
      lookedBy: null,
    });
  });

  it('leaves nothing of what is done meanwhile', async () => {
    const edit = {
      t: 'add' as const,
      table: beds.id,
      id: newId(),
      parent: null,
      values: { cbedcode: 'L1', cbedname: 'Looked', cbedhouse: 'Nursery', cbedarea: '1' },
    };
    const save = () => saveEdits(as('Ines'), { key: newId(), edits: [edit] });
    const there = () => world.sql(`SELECT 1 FROM records.beds WHERE code = 'L1'`);
    expect((await whileLooking(save)).ok).toBe(true);
    expect(await there()).toEqual([]);
    await must(save());
    expect(await there()).toHaveLength(1);
  });

  it('ends with the right to it, and with the session', async () => {
    const mine = await signedIn('Wren');
    await must(lookAs(as('Wren'), maren, mine));
    const now = async () => (await whoIsSignedIn(mine.headers))?.person.name;
    await world.sql(`UPDATE slate.person SET ended_at = now() WHERE id = $1`, [maren]);
    expect(await now()).toBe('Wren Calloway');
    await world.sql(`UPDATE slate.person SET ended_at = NULL WHERE id = $1`, [maren]);
    expect(await now()).toBe('Maren Solheim');
    await world.sql(`UPDATE slate.person SET roles = '{colleague}' WHERE id = $1`, [personNamed('Wren').id]);
    expect(await now()).toBe('Wren Calloway');
    await world.sql(`UPDATE slate.person SET roles = '{administrator,colleague}' WHERE id = $1`, [
      personNamed('Wren').id,
    ]);
    await must(leave(mine));
    expect(await whoIsSignedIn(mine.headers)).toBeNull();
    expect(await world.sql('SELECT 1 FROM slate.looked_as WHERE ended_at IS NULL')).toEqual([]);
  });

  it('is told to whoever it was, to administrators, and to nobody else', async () => {
    const told = await must(whoLookedAsMe(as('Maren')));
    expect(told.length).toBeGreaterThanOrEqual(2);
    expect(told[0]).toMatchObject({ as: maren, by: 'Wren Calloway' });
    expect((await must(openPeople(as('Wren')))).looked).toEqual(told);
    expect(await must(whoLookedAsMe(as('Ada')))).toEqual([]);
  });
});
