import { describe, expect, it } from 'vitest';
import type { DirectoryRow } from '../../src/core/directory/directory-rows';
import { catalogueNow } from '../../src/data/catalogue';
import { asOwner } from '../../src/data/transaction';
import { ok } from '../../src/core/kernel/result';
import { keepGroup } from '../../src/use-cases/people/keep-group';
import { followDirectory, planDirectory } from '../../src/use-cases/people/directory';
import { as, must, newId, refusal, useWorld } from '../support/world';

useWorld();

const wren = () => as('Wren');
const email = (who: string): string => `${who}@quillmere.example`;
const here = async () => {
  const { people, groups } = await must(asOwner({ person: '' }, async (tx) => ok(await catalogueNow(tx))));
  const named = (who: string) => [...people.values()].find((one) => one.email === email(who));
  return { people, named, group: (label: string) => [...groups.values()].find((one) => one.label === label) };
};
const follow = async (rows: readonly DirectoryRow[], leave: readonly string[] = []) => {
  const { seen } = await must(planDirectory(wren(), { rows }));
  return followDirectory(wren(), { rows, seen, leave });
};

describe('people from a list', () => {
  it('come in all at once, under one another and in their groups, in whatever order they stand', async () => {
    const maren = as('Maren').person.id;
    await must(keepGroup(wren(), newId(), { label: 'Glasshouses', people: [maren], groups: [] }));
    const rows = [
      { email: email('noor.abadi'), name: 'Noor Abadi', manager: email('sil.voss'), groups: ['Seed bank'] },
      {
        email: email('sil.voss'),
        name: 'Sil Voss',
        place: 'Seed bank',
        manager: email('dagny.farrow'),
        groups: ['Seed bank', 'glasshouses'],
      },
    ];
    expect(await must(follow(rows))).toEqual({ added: 2, changed: 0, left: 0 });
    const now = await here();
    const [noor, sil] = [now.named('noor.abadi'), now.named('sil.voss')];
    expect([noor?.manager, noor?.roles, sil?.manager]).toEqual([
      sil?.id,
      ['colleague'],
      now.named('dagny.farrow')?.id,
    ]);
    expect([...(now.group('Seed bank')?.people ?? [])].sort()).toEqual([noor?.id, sil?.id].sort());
    // Known to the group that was there, and those who were in it still are.
    expect(now.group('Glasshouses')?.people).toContain(sil?.id);
    expect(now.group('Glasshouses')?.people).toContain(maren);
    // The same list again changes nothing.
    const { plan } = await must(planDirectory(wren(), { rows }));
    expect([plan.add, plan.change, plan.groups, plan.same]).toEqual([[], [], [], 2]);
  });

  it('keeps the roles of whoever is known, and what the list does not tell', async () => {
    const before = (await here()).named('ines.okafor');
    await must(follow([{ email: email('ines.okafor'), name: 'Ines Okafor-Lind' }]));
    expect((await here()).named('ines.okafor')).toEqual({ ...before, name: 'Ines Okafor-Lind' });
  });

  it('ends the access of those who are named, up to somebody who stays, and lets them in again', async () => {
    const [noor, sil] = [(await here()).named('noor.abadi'), (await here()).named('sil.voss')];
    const rows = [{ email: email('maren.solheim'), name: 'Maren Solheim' }];
    await must(follow(rows, [noor?.id ?? '', sil?.id ?? '']));
    const now = await here();
    expect([now.named('noor.abadi')?.ended, now.named('sil.voss')?.ended]).toEqual([true, true]);
    const again = await must(follow([{ email: email('sil.voss'), name: 'Sil Voss', manager: '' }]));
    expect(again).toEqual({ added: 0, changed: 1, left: 0 });
    expect((await here()).named('sil.voss')?.ended).toBe(false);
  });

  it('is for administrators, for what was looked over, and does nothing where a line is wrong', async () => {
    const rows = [{ email: email('maren.solheim'), name: 'Maren Solheim', place: 'Another house' }];
    expect((await refusal(planDirectory(as('Ines'), { rows }))).kind).toBe('forbidden');
    const { seen } = await must(planDirectory(wren(), { rows }));
    expect((await refusal(followDirectory(as('Ines'), { rows, seen, leave: [] }))).kind).toBe('forbidden');
    await must(follow([{ email: email('maren.solheim'), name: 'Maren S' }]));
    expect((await refusal(followDirectory(wren(), { rows, seen, leave: [] }))).kind).toBe('stale');
    const wrong = [...rows, { email: 'nothing', name: 'X' }];
    expect((await refusal(follow(wrong))).kind).toBe('invalid');
    expect((await refusal(follow(rows, [wren().person.id]))).kind).toBe('invalid');
    // Somebody who is in the list does not leave by it.
    expect((await refusal(follow(rows, [as('Maren').person.id]))).kind).toBe('stale');
    expect((await here()).named('maren.solheim')?.place).toBe('Fern house');
  });

  it('is done once where two press at the same time, and the other is told', async () => {
    const rows = [{ email: email('one.of.two'), name: 'One Of Two', groups: ['Once'] }];
    const { seen } = await must(planDirectory(wren(), { rows }));
    const both = await Promise.all([1, 2].map(() => followDirectory(wren(), { rows, seen, leave: [] })));
    expect(both.map((one) => (one.ok ? 'done' : one.error.kind)).sort()).toEqual(['done', 'stale']);
  });

  it('brings in two thousand within a request', async () => {
    const rows = Array.from({ length: 2_000 }, (_, i) => ({
      email: email(`many.${i}`),
      name: `Many ${i}`,
      manager: i === 0 ? '' : email('many.0'),
      groups: ['Many'],
    }));
    expect(await must(follow(rows))).toEqual({ added: 2_000, changed: 0, left: 0 });
    expect((await here()).group('Many')?.people).toHaveLength(2_000);
  }, 120_000);
});
