import type { PersonName } from '../../contract/sheet-from-server';
import type { Choice } from './Select';

/** Colleagues to pick one of: with their place, by which two of one name are told apart, and by their name alone once one is picked. */
export const personChoices = (
  people: readonly PersonName[],
  valueOf: (id: string) => string = (id) => id,
): Choice[] =>
  people.map(({ id, name, place }) => ({
    value: valueOf(id),
    label: place === '' ? name : `${name}, ${place}`,
    short: name,
  }));
