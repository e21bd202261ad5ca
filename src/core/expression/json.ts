import Big from 'big.js';
import { Duration, durationText } from './duration';
import { numberText } from './number';
import { EMPTY, NUMBER, TEXT, YES_NO, listOf, together, type Field, type Type } from './type';
import { Range, isBig, isContext, isList, isRecord, type Value } from './value';

export type Json = string | number | boolean | null | readonly Json[] | { readonly [key: string]: Json };

/** A value for the world outside: numbers as JSON numbers where those are exact, else as text; dates and durations as ISO text. */
export function toJson(value: Value): Json {
  if (isBig(value)) return numberJson(value);
  if (value instanceof Duration) return durationText(value);
  if (value instanceof Range)
    return {
      from: toJson(value.low),
      to: toJson(value.high),
      fromIncluded: value.lowIn,
      toIncluded: value.highIn,
    };
  if (isList(value)) return value.map(toJson);
  if (isContext(value)) return Object.fromEntries([...value].map(([key, one]) => [key, toJson(one)]));
  return isRecord(value) ? { id: value.id, title: value.title } : value;
}

function numberJson(value: Big): Json {
  const [text, near] = [numberText(value), value.toNumber()];
  return Number.isFinite(near) && new Big(near).eq(value) ? near : text;
}

/** The type a piece of JSON shows: texts stay texts, for nothing says that one is a date. */
export function typeOfJson(json: Json): Type {
  if (json === null) return EMPTY;
  if (Array.isArray(json)) return listOf(together(json.map(typeOfJson)) ?? EMPTY);
  if (typeof json === 'object')
    return {
      t: 'context',
      fields: new Map(
        Object.entries(json).map(([key, one]): [string, Field] => [
          key,
          { id: key, type: typeOfJson(one as Json) },
        ]),
      ),
    };
  return typeof json === 'number' ? NUMBER : typeof json === 'boolean' ? YES_NO : TEXT;
}
