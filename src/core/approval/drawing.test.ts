import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawnPath, type DrawnStep } from './drawing';

const step = (id: string, more: Partial<DrawnStep> = {}): DrawnStep => ({
  id,
  label: id.toUpperCase(),
  says: 'Asks somebody',
  where: null,
  ...more,
});
const anySteps = fc
  .array(fc.record({ beside: fc.boolean(), where: fc.constantFrom(null, 'total > 5') }), { maxLength: 8 })
  .map((list) =>
    list.map(({ beside, where }, i) => step(`s${i}`, { where, ...(beside && { beside: true as const }) })),
  );

describe('the drawing of a path', () => {
  it('has a task for each step, gateways around those that are asked at the same time, and where a condition is', () => {
    const { nodes, flows } = drawnPath(
      [step('lead'), step('health', { where: 'total > 5' }), step('money', { beside: true })],
      'Treatments',
    );
    const kinds = (t: string) => nodes.filter((one) => one.t === t).map(({ id }) => id);
    expect(kinds('task')).toEqual(['again', 'lead', 'health', 'money']);
    expect(kinds('parallel')).toEqual(['health_split', 'health_join']);
    expect(kinds('exclusive')).toContain('health_asked');
    const named = (name: string) =>
      flows.filter((one) => one.name === name).map(({ from, to }) => [from, to]);
    expect(named('total > 5')).toEqual([['health_asked', 'health']]);
    expect(named('else')).toEqual([['health_asked', 'health_passed']]);
    expect(named('declined')).toHaveLength(3);
    expect(nodes.find(({ t }) => t === 'keep')?.name).toBe('Kept in Treatments');
  });

  it('law: everything is reached from the start and leads to an end, each has an id of its own, and no two lie over one another', () => {
    fc.assert(
      fc.property(anySteps, (steps) => {
        const { nodes, flows } = drawnPath(steps, 'T');
        const ids = [...nodes, ...flows].map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
        const reach = (from: string, next: (id: string) => string[]): Set<string> => {
          const seen = new Set([from]);
          for (const id of seen) next(id).forEach((one) => seen.add(one));
          return seen;
        };
        const onward = (id: string) => flows.filter((one) => one.from === id).map(({ to }) => to);
        expect(reach('start', onward).size).toBe(nodes.length);
        for (const { id, t } of nodes)
          if (t !== 'end')
            expect(
              [...reach(id, onward)].some((one) => nodes.find((node) => node.id === one)?.t === 'end'),
            ).toBe(true);
        for (const [i, a] of nodes.entries())
          for (const b of nodes.slice(i + 1))
            expect(a.x + a.w <= b.x || b.x + b.w <= a.x || a.y + a.h <= b.y || b.y + b.h <= a.y).toBe(true);
      }),
    );
  });
});
