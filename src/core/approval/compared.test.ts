import Big from 'big.js';
import { describe, expect, it } from 'vitest';
import { form, lines, number, section, text } from '../../../tests/support/small-form';
import { treatmentRequest } from '../../../demo/forms';
import { alikeBy, beyondUsual, figuresOf, rowAlikeBy, tellingFigure, type Spread } from './compared';

const spread = (count: number, low: number, middle: number, high: number): Spread => ({
  count,
  low: new Big(low),
  middle: new Big(middle),
  high: new Big(high),
});
const beyond = (value: number, of: Spread) => beyondUsual(new Big(value), of)?.times ?? null;

describe('a figure beyond what is usual', () => {
  const usual = spread(41, 150, 200, 250);
  it.each([
    [200, null],
    [550, null],
    [551, 2.76],
    [640, 3.2],
    [0, null],
  ])('%i is %s times the middle one', (value, times) => expect(beyond(value, usual)).toBe(times));

  it('is much less, too', () => expect(beyond(10, spread(20, 95, 100, 105))).toBe(0.1));
  it('is nothing to wonder at where it is not twice as much, or there are few', () => {
    expect(beyond(130, spread(20, 99, 100, 101))).toBeNull();
    expect(beyond(9_000, spread(7, 150, 200, 250))).toBeNull();
    expect(beyond(9_000, spread(9, 0, 0, 0))).toBeNull();
  });
});

describe('what is compared', () => {
  it('is the record a form is about, and its total', () => {
    expect(alikeBy(treatmentRequest)?.key).toBe('bed');
    expect(tellingFigure(treatmentRequest)?.label).toBe('Total');
    const names = figuresOf(treatmentRequest).map(({ question, group }) => [group?.key ?? '', question.key]);
    expect(names).toContainEqual(['', tellingFigure(treatmentRequest)?.key]);
    expect(names.filter(([group]) => group !== '').map(([, key]) => key)).toContain('rate');
  });

  it('is nothing where there is nothing to compare', () => {
    const plain = form([section('sa', [text('qa'), lines([text('qb')])])]);
    expect([alikeBy(plain), tellingFigure(plain), figuresOf(plain), rowAlikeBy(lines([text('qb')]))]).toEqual(
      [null, null, [], null],
    );
    const two = form([section('sa', [number('qa'), number('qb')])]);
    expect(tellingFigure(two)?.id).toBe('qb');
  });
});
