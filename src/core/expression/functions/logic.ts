import { DATE, YES_NO } from '../type';
import type { Builtin } from './builtin';

export const not: Builtin = {
  name: 'not', takes: [YES_NO], gives: YES_NO,
  run: ([of = null]) => (typeof of === 'boolean' ? !of : null),
};
export const today: Builtin = { name: 'today', takes: [], gives: DATE, run: (_, world) => world.today };
