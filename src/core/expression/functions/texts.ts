import Big from 'big.js';
import { NUMBER, TEXT, YES_NO } from '../type';
import type { Value } from '../value';
import type { Builtin } from './builtin';

const onTexts = (name: string, run: (a: string, b: string) => Value): Builtin => ({
  name, takes: [TEXT, TEXT], gives: YES_NO,
  run: ([a = null, b = null]) => (typeof a === 'string' && typeof b === 'string' ? run(a, b) : null),
});
const onText = (name: string, run: (a: string) => Value, gives = TEXT): Builtin => ({
  name, takes: [TEXT], gives, run: ([a = null]) => (typeof a === 'string' ? run(a) : null),
});

export const contains = onTexts('contains', (a, b) => a.includes(b));
export const startsWith = onTexts('starts with', (a, b) => a.startsWith(b));
export const endsWith = onTexts('ends with', (a, b) => a.endsWith(b));
/** Counts characters as people see code points, not UTF-16 units. */
export const stringLength = onText('string length', (a) => new Big([...a].length), NUMBER);
export const upperCase = onText('upper case', (a) => a.toUpperCase());
export const lowerCase = onText('lower case', (a) => a.toLowerCase());
