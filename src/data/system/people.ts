import { asc } from 'drizzle-orm';
import type { Person, Role } from '../../core/access/rules';
import type { Tx } from '../connect';
import { person } from './schema';

const shape = {
  id: person.id,
  name: person.name,
  email: person.email,
  place: person.place,
  roles: person.roles,
};
const asPersonRow = (row: {
  id: string;
  name: string;
  email: string;
  place: string;
  roles: string[];
}): Person => ({ ...row, roles: row.roles as Role[] });

export async function readPeople(tx: Pick<Tx, 'select'>): Promise<Person[]> {
  return (await tx.select(shape).from(person).orderBy(asc(person.name))).map(asPersonRow);
}
