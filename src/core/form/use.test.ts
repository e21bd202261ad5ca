import { describe, expect, it } from 'vitest';
import { form, lines, number, section } from '../../../tests/support/small-form';
import { questionsOf, type Question } from './design';
import { designFor, isFixedOnChange } from './use';

const of = (more: Partial<Question>) =>
  form([section('s', [number('a', { required: true, ...more } as never), number('b')])]);
const first = (design: ReturnType<typeof of>, use: 'new' | 'change') =>
  questionsOf(designFor(design, use))[0];

describe('one form in its uses', () => {
  it('is the same where nothing differs', () => {
    const plain = of({});
    expect(designFor(plain, 'new')).toBe(plain);
    expect(designFor(plain, 'change')).toBe(plain);
  });

  it('requires what it requires in one use alone', () => {
    expect([
      first(of({ requiredFor: 'new' }), 'new')?.required,
      first(of({ requiredFor: 'new' }), 'change')?.required,
    ]).toEqual([true, false]);
    const when = of({ requiredFor: 'change', required: false, requireWhen: 'b = 1' });
    expect(first(when, 'new')).not.toHaveProperty('requireWhen');
    expect(first(when, 'change')).toHaveProperty('requireWhen', 'b = 1');
  });

  it('does not ask in a new sheet for what is asked of a record alone, and demands nothing that cannot be given', () => {
    expect(first(of({ onNew: 'hidden' }), 'new')?.askWhen).toBe('false');
    expect(first(of({ onNew: 'hidden' }), 'change')?.askWhen).toBeUndefined();
    for (const onChange of ['locked', 'hidden'] as const)
      expect(first(of({ onChange }), 'change')?.required).toBe(false);
    expect(first(of({ onChange: 'locked' }), 'new')?.required).toBe(true);
  });

  it('goes into rows', () => {
    const rows = { ...lines([number('n', { required: true, onChange: 'locked' } as never)]), least: 2 };
    const [group] = questionsOf(designFor(form([section('s', [rows])]), 'change'));
    expect(group).toMatchObject({ least: 2, columns: [{ required: false }] });
    const fixed = questionsOf(
      designFor(form([section('s', [{ ...rows, onChange: 'locked' }])]), 'change'),
    )[0];
    expect(fixed).toMatchObject({ least: 0 });
    expect(fixed !== undefined && isFixedOnChange(fixed)).toBe(true);
  });
});
