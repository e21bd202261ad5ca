import Big from 'big.js';
import { Duration } from './duration';
import { numberText } from './number';
import { Range, isBig, isContext, isList, type Value } from './value';

/** A value as plain data, which passes from one thread to another: what is no plain data by itself says what it is. */
export type Packed =
  | string
  | boolean
  | null
  | readonly Packed[]
  | { readonly t: 'number'; readonly text: string }
  | { readonly t: 'duration'; readonly unit: Duration['unit']; readonly amount: string }
  | {
      readonly t: 'range';
      readonly low: Packed;
      readonly high: Packed;
      readonly lowIn: boolean;
      readonly highIn: boolean;
    }
  | { readonly t: 'context'; readonly entries: readonly (readonly [string, Packed])[] }
  | {
      readonly t: 'record';
      readonly id: string;
      readonly title: string;
      readonly entries: readonly (readonly [string, Packed])[];
    };

export function pack(value: Value): Packed {
  if (value === null || typeof value === 'string' || typeof value === 'boolean') return value;
  if (isBig(value)) return { t: 'number', text: numberText(value) };
  if (value instanceof Duration) return { t: 'duration', unit: value.unit, amount: numberText(value.amount) };
  if (value instanceof Range)
    return {
      t: 'range',
      low: pack(value.low),
      high: pack(value.high),
      lowIn: value.lowIn,
      highIn: value.highIn,
    };
  if (isList(value)) return value.map(pack);
  if (isContext(value)) return { t: 'context', entries: [...value].map(([key, one]) => [key, pack(one)]) };
  const entries = Object.entries(value.values).map(([key, one]) => [key, pack(one)] as const);
  return { t: 'record', id: value.id, title: value.title, entries };
}

export function unpack(packed: Packed): Value {
  if (packed === null || typeof packed === 'string' || typeof packed === 'boolean') return packed;
  if (!('t' in packed)) return packed.map(unpack);
  switch (packed.t) {
    case 'number':
      return new Big(packed.text);
    case 'duration':
      return new Duration(packed.unit, new Big(packed.amount));
    case 'range':
      return new Range(unpack(packed.low), unpack(packed.high), packed.lowIn, packed.highIn);
    case 'context':
      return new Map(packed.entries.map(([key, one]) => [key, unpack(one)]));
    case 'record':
      return {
        id: packed.id,
        title: packed.title,
        values: Object.fromEntries(packed.entries.map(([key, one]) => [key, unpack(one)])),
      };
  }
}
