import { worldOf } from '../support/workspace';
import { beforeAll, describe, expect, it } from 'vitest';
import { inverseOf, type RecordEdit } from '../../src/core/record/edit';
import type { Values } from '../../src/core/record/column-value';
import { fail, ok, type Result } from '../../src/core/kernel/result';
import { invalid, type Refusal } from '../../src/core/kernel/refusal';
import { asPerson } from '../../src/data/transaction';
import { applyEdits, type Applied } from '../../src/use-cases/records/apply-edits';
import { beds } from '../../demo/tables';
import { personNamed } from '../../demo/people';
import { as, must, newId, refusal, useWorld } from '../support/world';
import { ALL_EDITS, cuts, onlyGrants, plantedBed, trees } from '../support/trees';

/** The one door by which records are written: what two do at once, what may not be done, and what comes back. */
const world = useWorld(undefined, [beds, trees, cuts]);
let bed = '';
beforeAll(async () => {
  await onlyGrants(world, [
    ...[beds, trees, cuts].map((table) => ['Ines', table, ...ALL_EDITS] as const),
    ['Tomasz', trees, 'see', 'change'],
    ['Ada', trees, 'see', 'remove'],
  ]);
  bed = await plantedBed(world);
});

const now = worldOf('2026-11-23T10:00:00');
const doing = (
  name: string,
  edits: readonly RecordEdit[],
  trying = false,
): Promise<Result<Applied, Refusal>> =>
  asPerson({ person: personNamed(name).id }, (tx, catalogue) =>
    applyEdits(tx, catalogue, { edits, person: personNamed(name).id, world: now, reasons: [], trying }),
  );
const adding = (values: Values, id = newId()): RecordEdit & { t: 'add' } => ({
  t: 'add',
  table: trees.id,
  id,
  number: null,
  parent: null,
  values,
});
const changing = (id: string, version: number, before: Values, values: Values): RecordEdit => ({
  t: 'change',
  table: trees.id,
  id,
  version,
  before,
  values,
});
const cutting = (id: string, position: number, why: string): RecordEdit => ({
  t: 'add',
  table: cuts.id,
  id: newId(),
  number: null,
  parent: { id, position },
  values: { ccuwhy: why },
});
async function planted(values: Values): Promise<string> {
  const add = adding(values);
  await must(doing('Ines', [add]));
  return add.id;
}
const codes = async (result: Promise<Result<unknown, Refusal>>): Promise<unknown[]> => {
  const refused = await refusal(result);
  return refused.kind === 'invalid'
    ? refused.issues.map(({ code, path }) => [code, path[1]])
    : [refused.kind];
};
const stored = async (id: string) =>
  (
    await world.sql(
      `SELECT name, height::text, version, removed_at, updated_by FROM records.trees WHERE id = $1`,
      [id],
    )
  )[0];

describe('a batch', () => {
  it('adds records with their rows and numbers in one go, with their trail', async () => {
    const [one, two] = [
      adding({ ctrname: 'Oak', ctrheight: '12.5', ctrbed: bed }),
      adding({ ctrname: 'Ash' }),
    ];
    const done = await must(
      doing('Ines', [one, two, cutting(one.id, 1, 'storm'), cutting(one.id, 2, 'rot')]),
    );
    expect([...done.versions.values()]).toEqual([1, 1, 1, 1]);
    expect(
      await world.sql(
        `SELECT name, number LIKE 'TR-%-0001' AS first FROM records.trees WHERE id = ANY($1) ORDER BY number`,
        [[one.id, two.id]],
      ),
    ).toEqual([
      { name: 'Oak', first: true },
      { name: 'Ash', first: false },
    ]);
    expect(
      await world.sql(`SELECT why FROM records.cuts WHERE parent_id = $1 ORDER BY position`, [one.id]),
    ).toEqual([{ why: 'storm' }, { why: 'rot' }]);
    expect(await world.sql(`SELECT change, by_id FROM slate.history WHERE record_id = $1`, [one.id])).toEqual(
      [{ change: 'made', by_id: personNamed('Ines').id }],
    );
  });

  it('does all or nothing, and says all that is wrong at once', async () => {
    const fine = adding({ ctrname: 'Elm' });
    expect(
      await codes(
        doing('Ines', [fine, adding({ ctrheight: 'tall' }), changing(newId(), 1, {}, { ctrname: 'x' })]),
      ),
    ).toEqual([
      ['not-a-number', 'ctrheight'],
      ['required', 'ctrname'],
    ]);
    expect(await codes(doing('Ines', [fine, changing(newId(), 1, {}, { ctrname: 'x' })]))).toEqual([
      ['record-not-there', undefined],
    ]);
    expect(await codes(doing('Ines', [fine, fine]))).toEqual([['malformed', undefined]]);
    expect(await stored(fine.id)).toBeUndefined();
  });

  it('leaves the refusals of the tables to the tables, said at their column', async () => {
    const id = await planted({ ctrname: 'Yew' });
    const refused = await refusal(doing('Ines', [adding({ ctrname: 'Yew' })]));
    expect(refused).toMatchObject({ kind: 'invalid', issues: [{ code: 'already-used', path: ['ctrname'] }] });
    expect(await codes(doing('Ines', [adding({ ctrname: 'Yew again', ctrbed: newId() })]))).toEqual([
      ['record-gone', undefined],
    ]);
    expect(await codes(doing('Ines', [adding({ ctrname: 'Same id' }, id)]))).toEqual([
      ['malformed', undefined],
    ]);
  });

  it('tries without keeping, and without taking a number', async () => {
    const counter = () => world.sql(`SELECT last FROM slate.number_counter WHERE table_id = $1`, [trees.id]);
    const before = await counter();
    const add = adding({ ctrname: 'Only tried' });
    const tried = await asPerson({ person: personNamed('Ines').id }, async (tx, catalogue) => {
      await applyEdits(tx, catalogue, {
        edits: [add],
        person: personNamed('Ines').id,
        world: now,
        reasons: [],
        trying: true,
      });
      return fail(invalid());
    });
    expect(tried.ok).toBe(false);
    expect(await counter()).toEqual(before);
    expect(await stored(add.id)).toBeUndefined();
  });
});

describe('two people at once', () => {
  it('both get what they changed in different columns', async () => {
    const id = await planted({ ctrname: 'Hazel', ctrheight: '3.0' });
    const [mine, theirs] = await Promise.all([
      doing('Ines', [changing(id, 1, { ctrheight: '3.0' }, { ctrheight: '3.5' })]),
      doing('Tomasz', [changing(id, 1, { ctrname: 'Hazel' }, { ctrname: 'Corylus' })]),
    ]);
    expect([mine.ok, theirs.ok]).toEqual([true, true]);
    expect(await stored(id)).toMatchObject({ name: 'Corylus', height: '3.5', version: 3 });
  });

  it('of twenty who change one column one gets through, and the others are asked', async () => {
    const id = await planted({ ctrname: 'Larch', ctrheight: '1.0' });
    const tries = await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        doing('Ines', [changing(id, 1, { ctrheight: '1.0' }, { ctrheight: String(i + 2) })]),
      ),
    );
    expect(tries.filter(({ ok: through }) => through)).toHaveLength(1);
    expect(await stored(id)).toMatchObject({ version: 2 });
    const refused = tries.find(({ ok: through }) => !through);
    expect(refused).toMatchObject({
      error: { issues: [{ code: 'value-changed', path: [id, 'ctrheight'] }] },
    });
  });

  it('nobody changes what is removed, or removes what somebody changed', async () => {
    const id = await planted({ ctrname: 'Rowan' });
    await must(doing('Ines', [changing(id, 1, { ctrname: 'Rowan' }, { ctrname: 'Sorbus' })]));
    const remove: RecordEdit = { t: 'remove', table: trees.id, id, version: 1 };
    expect(await codes(doing('Ines', [remove]))).toEqual([['record-changed', undefined]]);
    await must(doing('Ines', [{ ...remove, version: 2 }]));
    expect(await codes(doing('Ines', [changing(id, 2, { ctrname: 'Sorbus' }, { ctrname: 'x' })]))).toEqual([
      ['record-removed', undefined],
    ]);
  });

  it('no record comes to name one that is removed at the same moment', async () => {
    for (let round = 0; round < 8; round++) {
      const rows = await world.sql(
        `INSERT INTO records.beds (code, name, section, area) VALUES ($1, 'x', 'y', 1) RETURNING id`,
        [`R${round}`],
      );
      const target = String(rows[0]?.['id']);
      await Promise.all([
        doing('Ines', [adding({ ctrname: `In R${round}`, ctrbed: target })]),
        doing('Ines', [{ t: 'remove', table: beds.id, id: target, version: 1 }]),
      ]);
      const dangling = await world.sql(
        `SELECT t.name FROM records.trees t JOIN records.beds b ON b.id = t.bed WHERE b.removed_at IS NOT NULL AND t.removed_at IS NULL`,
      );
      expect(dangling).toEqual([]);
    }
  });
});

describe('what is removed', () => {
  it('is named by nothing that stays, goes with its rows, and comes back with them', async () => {
    expect(await codes(doing('Ines', [{ t: 'remove', table: beds.id, id: bed, version: 1 }]))).toEqual([
      ['record-named', undefined],
    ]);
    const add = adding({ ctrname: 'Willow' });
    const [storm, rot] = [cutting(add.id, 1, 'storm'), cutting(add.id, 2, 'rot')];
    await must(doing('Ines', [add, storm, rot]));
    await must(doing('Ines', [{ t: 'remove', table: cuts.id, id: rot.id, version: 1 }]));
    const removed = await must(doing('Ines', [{ t: 'remove', table: trees.id, id: add.id, version: 1 }]));
    const left = () =>
      world.sql(`SELECT why FROM records.cuts WHERE parent_id = $1 AND removed_at IS NULL`, [add.id]);
    expect(await left()).toEqual([]);
    await must(doing('Ines', removed.inverse));
    expect(await left()).toEqual([{ why: 'storm' }]);
    expect(await stored(add.id)).toMatchObject({ removed_at: null, version: 3 });
  });

  it('does not come back to what is gone meanwhile, be it a record it names or the one whose row it is', async () => {
    const rows = await world.sql(
      `INSERT INTO records.beds (code, name, section, area) VALUES ('Gone', 'x', 'y', 1) RETURNING id`,
    );
    const target = String(rows[0]?.['id']);
    const add = adding({ ctrname: 'Alder', ctrbed: target });
    const cut = cutting(add.id, 1, 'rot');
    await must(doing('Ines', [add, cut]));
    await must(doing('Ines', [{ t: 'remove', table: cuts.id, id: cut.id, version: 1 }]));
    const removed = await must(doing('Ines', [{ t: 'remove', table: trees.id, id: add.id, version: 1 }]));
    const without = await must(doing('Ines', [{ t: 'remove', table: beds.id, id: target, version: 1 }]));
    expect(await codes(doing('Ines', removed.inverse))).toEqual([['record-gone', 'ctrbed']]);
    const row: RecordEdit = { t: 'restore', table: cuts.id, id: cut.id, version: 2 };
    expect(await codes(doing('Ines', [row]))).toEqual([['record-gone', undefined]]);
    await must(doing('Ines', without.inverse));
    await must(doing('Ines', removed.inverse));
    await must(doing('Ines', [row]));
    // At the same moment, one of the two waits for the other.
    for (let round = 0; round < 6; round++) {
      const now = (await stored(add.id))?.['version'] as number;
      await must(doing('Ines', [{ t: 'remove', table: trees.id, id: add.id, version: now }]));
      const bedNow = (await world.sql(`SELECT version FROM records.beds WHERE id = $1`, [target]))[0]?.[
        'version'
      ];
      const [back, gone] = await Promise.all([
        doing('Ines', [{ t: 'restore', table: trees.id, id: add.id, version: now + 1 }]),
        doing('Ines', [{ t: 'remove', table: beds.id, id: target, version: bedNow as number }]),
      ]);
      expect([back.ok, gone.ok].filter(Boolean)).toHaveLength(1);
      if (gone.ok) {
        await must(doing('Ines', gone.value.inverse));
        await must(doing('Ines', [{ t: 'restore', table: trees.id, id: add.id, version: now + 1 }]));
      }
    }
  });

  it('and whatever else was done, is taken back by its inverse', async () => {
    const id = await planted({ ctrname: 'Birch', ctrheight: '4.0', ctrat: '2026-11-23T09:30' });
    const edit = changing(
      id,
      1,
      { ctrname: 'Birch', ctrat: '2026-11-23T09:30:00' },
      { ctrname: 'Betula', ctrat: null },
    );
    const done = await must(doing('Ines', [edit, adding({ ctrname: 'Beech' })]));
    await must(doing('Ines', done.inverse));
    expect(
      await world.sql(
        `SELECT name, measured::text AS seen, removed_at IS NOT NULL AS removed FROM records.trees WHERE name IN ('Birch', 'Betula', 'Beech') ORDER BY name`,
      ),
    ).toEqual([
      { name: 'Beech', seen: null, removed: true },
      { name: 'Birch', seen: '2026-11-23 09:30:00', removed: false },
    ]);
    expect(inverseOf(edit, 2)).toMatchObject({ t: 'change', version: 2 });
  });
});

describe('rights', () => {
  it('are asked for each action, by the door and by the database', async () => {
    const id = await planted({ ctrname: 'Holly' });
    const rename = changing(id, 1, { ctrname: 'Holly' }, { ctrname: 'Ilex' });
    const remove: RecordEdit = { t: 'remove', table: trees.id, id, version: 1 };
    for (const [name, edits] of [
      ['Tomasz', [remove]],
      ['Tomasz', [adding({ ctrname: 'No' })]],
      ['Ada', [rename]],
      ['Maren', [rename]],
    ] as const)
      expect(await codes(doing(name, edits))).toEqual([['edit-not-allowed', undefined]]);
    // A record of a table that they may not see is no record to them.
    expect(await codes(doing('Tomasz', [changing(id, 1, {}, { ctrbed: bed })]))).toEqual([
      ['not-a-record', 'ctrbed'],
    ]);
    const plainly = (name: string, set: string) =>
      asPerson({ person: personNamed(name).id }, async (tx) => {
        const { rowCount } = await tx.execute(`UPDATE records.trees SET ${set} WHERE id = '${id}'`);
        return ok(rowCount);
      }).then(
        (result) => (result.ok ? result.value : 'refused'),
        () => 'refused',
      );
    expect(await plainly('Tomasz', 'removed_at = now()')).toBe('refused');
    expect(await plainly('Ada', `name = 'Ilex'`)).toBe('refused');
    expect(await plainly('Ada', `removed_at = now(), name = 'Ilex'`)).toBe('refused');
    expect(await plainly('Maren', `name = 'Ilex'`)).toBe(0);
    await must(doing('Ada', [remove]));
    expect(as('Ada').person.id).toBe((await stored(id))?.['updated_by']);
  });
});
