/** Who is asking. Roles are of the workspace; what concerns one form or table is granted there. */
export interface Person {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly place: string;
  readonly roles: readonly Role[];
}

export const roles = ['owner', 'steward', 'administrator', 'colleague'] as const;
export type Role = (typeof roles)[number];

/** Designing is for owners; each designs their own forms, and administrators may step in. */
export const mayDesign = (person: Person): boolean =>
  person.roles.includes('owner') || person.roles.includes('administrator');
export const mayDesignForm = (person: Person, ownerId: string): boolean =>
  person.id === ownerId || person.roles.includes('administrator');

/** Sources outside hold secrets, and reach where this machine reaches. */
export const mayAdminister = (person: Person): boolean => person.roles.includes('administrator');

/** Roles that see a table as soon as a release has made it; others are granted it by name. */
export const seeNewTables: readonly Role[] = ['owner', 'steward', 'administrator'];
