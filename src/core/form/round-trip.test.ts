import Big from 'big.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { same, type Value } from '../expression/value';
import { limits } from '../limits';
import { kinds } from '../table/kinds/list';
import { written } from '../storage/rows-to-write';
import { readInto, emptyCells, retyped, shown } from './cells';
import type { FieldQuestion } from './design';
import { pastedRaw } from './pasted';

/** One question of each kind that is typed, with values it may hold. */
const base = { id: 'q', key: 'q', label: 'Question', hint: '', required: false };
const days = fc
  .date({ min: new Date('0100-01-01'), max: new Date('9998-12-31'), noInvalidDate: true })
  .map((date) => date.toISOString().slice(0, 10));
const clock = fc
  .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }), fc.integer({ min: 0, max: 59 }))
  .map((parts) => parts.map((n) => String(n).padStart(2, '0')).join(':'));
const number = (decimals: number) =>
  fc.bigInt({ min: 1n - 10n ** 15n, max: 10n ** 15n - 1n }).map((n) => new Big(`${n}e-${decimals}`));
const choices = [
  { code: 'a', label: 'Quarantine' },
  { code: '1', label: 'In the open' },
  { code: 'in_store', label: 'A' },
  { code: '=x', label: '+44 (sums)' },
];
const text = fc
  .string({ unit: 'grapheme', maxLength: 80 })
  .map((one) => one.replaceAll('\u0000', '').trim())
  .filter((one) => one !== '');

interface Case {
  readonly question: FieldQuestion;
  readonly value: Value;
}
const of = <Q extends object>(question: Q, values: fc.Arbitrary<Value>): fc.Arbitrary<Case> =>
  values.map((value) => ({ question: { ...base, ...question } as unknown as FieldQuestion, value }));

const cases = fc.oneof(
  of({ kind: 'text', long: false }, text),
  of({ kind: 'text', long: true }, text),
  fc.constantFrom('', '°C', 'm²', 'pieces').chain((unit) => of({ kind: 'whole', unit }, number(0))),
  fc
    .tuple(fc.integer({ min: 0, max: 6 }), fc.constantFrom('', 'ml', 'ml/m²', '%', 'kg'))
    .chain(([decimals, unit]) => of({ kind: 'decimal', decimals, unit }, number(decimals))),
  fc
    .tuple(fc.constantFrom(0, 2, 3), fc.constantFrom('GBP', 'EUR', 'JPY', 'KWD', '£', '€', ''))
    .chain(([decimals, unit]) => of({ kind: 'money', decimals, unit }, number(decimals))),
  of({ kind: 'yes-no' }, fc.boolean()),
  of({ kind: 'date' }, days),
  of({ kind: 'time' }, clock),
  of(
    { kind: 'date-time' },
    fc.tuple(days, clock).map(([day, at]) => `${day}T${at}`),
  ),
  of({ kind: 'choice', choices }, fc.constantFrom(...choices.map(({ code }) => code))),
  of({ kind: 'confirmation', statement: 'I have read it' }, fc.constant(true)),
  of(
    { kind: 'choices', choices: [...choices, { code: 'B, b', label: 'A, and more' }] },
    fc.subarray([...choices.map(({ code }) => code), 'B, b'], { minLength: 1 }).map((codes): Value => codes),
  ),
  of({ kind: 'e-mail' }, fc.constantFrom('maren.solheim@quillmere.example', 'a+b@c.example')),
  of({ kind: 'web-address' }, fc.constantFrom('https://quillmere.example/beds?x=1', 'www.quillmere.example')),
  of({ kind: 'phone' }, fc.constantFrom('+44 1632 960001', '(01632) 960-001', '101')),
);

/** What an answer is worth after it was typed; null with the code where it cannot be read. */
function typed(question: FieldQuestion, raw: ReturnType<typeof retyped>): Value | { code: string } {
  const cells = emptyCells();
  readInto(cells, question, raw, new Map());
  const fault = cells.faults.get(question.id);
  return fault === undefined ? (cells.values.get(question.id) ?? null) : { code: fault.code };
}

describe('typed, shown, typed again and stored', () => {
  it('is the same value, for every kind', () => {
    fc.assert(
      fc.property(cases, ({ question, value }) => {
        const again = typed(question, retyped(question, value));
        expect([question.kind, again]).toEqual([question.kind, value]);
        // Copied from where it is shown, and pasted.
        const pasted = typed(question, pastedRaw(question, shown(question, value)));
        expect([question.kind, shown(question, value), pasted]).toEqual([
          question.kind,
          shown(question, value),
          value,
        ]);
        // Stored as it is written to its column, and read from there.
        const column = written(value, 'decimals' in question ? question.decimals : 0);
        // PostgreSQL parts the day from the time by a space.
        const stored = typed(
          question,
          question.kind === 'date-time' ? String(column).replace('T', ' ') : column,
        );
        expect([question.kind, same(stored as Value, value)]).toEqual([question.kind, true]);
      }),
      { numRuns: 2_000 },
    );
  });

  it('covers every kind of column there is', () => {
    const covered = new Set(fc.sample(cases, 2_000).map(({ question }) => question.kind as string));
    expect(Object.keys(kinds).filter((kind) => !covered.has(kind))).toEqual(['files', 'reference']);
    expect(limits.numberDigits).toBe(15);
  });
});
