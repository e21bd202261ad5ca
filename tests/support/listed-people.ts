import type { Colleague } from '../../src/core/access/rules';
import type { DirectoryRow } from '../../src/core/directory/directory-rows';

/** Somebody who is here. */
export const colleague = (id: string, part: Partial<Colleague> = {}): Colleague => ({
  id,
  name: id.toUpperCase(),
  email: `${id}@here.example`,
  place: '',
  roles: ['colleague'],
  manager: null,
  deputy: null,
  ended: false,
  ...part,
});

/** A line of a list about the same. */
export const listed = (who: string, part: Partial<DirectoryRow> = {}): DirectoryRow => ({
  email: `${who}@here.example`,
  name: who.toUpperCase(),
  ...part,
});
