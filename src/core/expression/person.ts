import type { Person } from '../access/rules';
import { PEOPLE, TEXT, type Field, type Type } from './type';
import type { RecordValue } from './value';

const columns = ['name', 'place', 'email'] as const;
export type PersonColumn = (typeof columns)[number];
export const isPersonColumn = (id: string): id is PersonColumn => columns.some((one) => one === id);

/** A colleague, as expressions see them: `sender.place`. Two are equal when they are the same person. */
export const PERSON: Extract<Type, { t: 'record' }> = {
  t: 'record',
  table: PEOPLE,
  fields: new Map(columns.map((id) => [id, { id, type: TEXT }])),
};

/** Whoever sends the form: a name of every form, so no question may take its key. */
export const SENDER = 'sender';
export const senderField: Field = { id: SENDER, type: PERSON };

/** Whoever looks at records: a name of every filter, unless a column has it. */
export const ME = 'me';

export type KnownPerson = Pick<Person, 'id' | PersonColumn>;

/** A place that is not given is empty, not a text without letters. */
export const personValue = ({ id, name, place, email }: KnownPerson): RecordValue => ({
  id,
  title: name,
  values: { name, place: place === '' ? null : place, email },
});
