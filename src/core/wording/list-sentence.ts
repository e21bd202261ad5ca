import { unreachable } from '../kernel/result';
import type { ListChange } from '../table/choice-list';
import { speak } from './speak';

/** A change of a choice list in words. `records` is how many hold the choice it is about. */
export function listSentence(change: ListChange, records: (code: string) => string = () => ''): string {
  const held = (code: string): string => (records(code) === '' ? '' : speak`, which ${records(code)}`);
  switch (change.t) {
    case 'make':
      return speak`The list “${change.label}” is made, with ${change.choices} choices`;
    case 'rename':
      return speak`The list “${change.before}” is renamed “${change.label}”`;
    case 'describe':
      return speak`Its description changes`;
    case 'add':
      return speak`“${change.choice.label}” is offered from now on`;
    case 'relabel':
      return speak`“${change.before}”${held(change.choice.code)}, reads “${change.choice.label}” everywhere`.replace(
        /^(“[^”]*”), reads/,
        '$1 reads',
      );
    case 'retire':
      return speak`“${change.choice.label}”${held(change.choice.code)}, is no longer offered, and stays in the records that have it`.replace(
        /^(“[^”]*”), is/,
        '$1 is',
      );
    case 'offer':
      return speak`“${change.choice.label}” is offered again`;
    case 'remove':
      return speak`“${change.choice.label}” is taken out`;
    case 'order':
      return speak`The choices are in a different order`;
    default:
      return unreachable(change);
  }
}
