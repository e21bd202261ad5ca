import type { Role } from '../src/core/access/rules';

/** The people of Quillmere Botanic Garden. All invented. */
export interface SamplePerson {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly place: string;
  readonly roles: readonly Role[];
}

export const samplePassword = 'quillmere-garden';

const names: readonly [name: string, place: string, roles: readonly Role[]][] = [
  ['Ines Okafor', 'Plant records', ['owner', 'steward', 'colleague']],
  ['Tomasz Bielak', 'Fern house', ['colleague']],
  ['Maren Solheim', 'Fern house', ['colleague']],
  ['Ada Quist', 'Plant health', ['colleague']],
  ['Pell Adeyemi', 'Plant health', ['colleague']],
  ['Ruo Lindqvist', 'Plant health', ['colleague']],
  ['Dagny Farrow', 'Direction', ['colleague']],
  ['Osei Marchetti', 'Finance', ['colleague']],
  ['Wren Calloway', 'Systems', ['administrator', 'colleague']],
  ['Ilse Brandvold', 'Arid house', ['colleague']],
  ['Kofi Renwick', 'Nursery', ['colleague', 'steward']],
];

export const people: readonly SamplePerson[] = names.map(([name, place, roles], i) => ({
  id: `01900000-0000-7000-8000-${String(i + 1).padStart(12, '0')}`,
  name,
  place,
  roles,
  email: `${name.toLowerCase().replace(' ', '.')}@quillmere.example`,
}));

/** Who belongs together, and whom whoever works under. */
export const groups: readonly {
  readonly label: string;
  readonly people: readonly string[];
  readonly groups: readonly string[];
}[] = [
  { label: 'Plant health', people: ['Ada', 'Pell', 'Ruo'], groups: [] },
  { label: 'Glasshouses', people: ['Tomasz', 'Maren', 'Ilse', 'Kofi'], groups: [] },
  { label: 'Garden staff', people: ['Ines'], groups: ['Plant health', 'Glasshouses'] },
];
export const managers: readonly (readonly [person: string, manager: string])[] = [
  ['Maren', 'Tomasz'],
  ['Tomasz', 'Dagny'],
  ['Ada', 'Ines'],
  ['Pell', 'Ada'],
  ['Ruo', 'Ada'],
  ['Osei', 'Dagny'],
];

export function personNamed(name: string): SamplePerson {
  const found = people.find((person) => person.name.startsWith(name));
  if (found === undefined) throw new Error(`nobody is called ${name}`);
  return found;
}
