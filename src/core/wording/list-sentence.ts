import { unreachable } from '../kernel/result';
import type { ListChange } from '../table/choice-list';

/** A change of a choice list in words. `records` is how many hold the choice it is about. */
export function listSentence(change: ListChange, records: (code: string) => string = () => ''): string {
  const held = (code: string): string => (records(code) === '' ? '' : `, which ${records(code)}`);
  switch (change.t) {
    case 'make':
      return `The list “${change.label}” is made, with ${change.choices} choices`;
    case 'rename':
      return `The list “${change.before}” is renamed “${change.label}”`;
    case 'describe':
      return 'Its description changes';
    case 'add':
      return `“${change.choice.label}” is offered from now on`;
    case 'relabel':
      return `“${change.before}”${held(change.choice.code)}, reads “${change.choice.label}” everywhere`.replace(
        /^(“[^”]*”), reads/,
        '$1 reads',
      );
    case 'retire':
      return `“${change.choice.label}”${held(change.choice.code)}, is no longer offered, and stays in the records that have it`.replace(
        /^(“[^”]*”), is/,
        '$1 is',
      );
    case 'offer':
      return `“${change.choice.label}” is offered again`;
    case 'remove':
      return `“${change.choice.label}” is taken out`;
    case 'order':
      return 'The choices are in a different order';
    default:
      return unreachable(change);
  }
}
