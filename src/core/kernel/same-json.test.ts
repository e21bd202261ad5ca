import fc from 'fast-check';
import { expect, it } from 'vitest';
import { sameJson } from './same-json';

it('knows what JSON says, whatever the order of its keys', () => {
  fc.assert(
    fc.property(fc.jsonValue(), fc.jsonValue(), (a, b) => {
      const turned = (value: unknown): unknown =>
        Array.isArray(value)
          ? value.map(turned)
          : typeof value === 'object' && value !== null
            ? Object.fromEntries(
                Object.entries(value)
                  .reverse()
                  .map(([key, one]) => [key, turned(one)]),
              )
            : value;
      expect(sameJson(a, turned(a))).toBe(true);
      expect(sameJson(a, b)).toBe(sameJson(b, a));
      if (JSON.stringify(a) === JSON.stringify(b)) expect(sameJson(a, b)).toBe(true);
    }),
  );
  expect(sameJson({ a: 1 }, { a: 1, b: undefined })).toBe(true);
  expect(sameJson({ a: 1, b: undefined }, { a: 1, c: 2 })).toBe(false);
  expect(sameJson([1, 2], { 0: 1, 1: 2 })).toBe(false);
  expect(sameJson({ a: null }, {})).toBe(false);
});
