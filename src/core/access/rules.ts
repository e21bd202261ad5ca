/** Who is asking. Roles are of the workspace; what concerns one form or table is granted there. */
export interface Person {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly place: string;
  readonly roles: readonly Role[];
}

/** Somebody as the workspace knows them, with whom they work under and who stands in for them. */
export interface Colleague extends Person {
  readonly manager: string | null;
  readonly deputy: string | null;
  /** Has left: is shown where they did something, and asked, offered or let in nowhere. */
  readonly ended: boolean;
  /** A link, by which people without an account send: a name beside what they sent, and nobody of ours. */
  readonly outside?: boolean;
}

export const roles = ['owner', 'steward', 'administrator', 'colleague'] as const;
export type Role = (typeof roles)[number];

/** Designing is for owners, and for administrators, who may step in everywhere. */
export const mayDesign = (person: Person): boolean =>
  person.roles.includes('owner') || person.roles.includes('administrator');
/** Sources outside hold secrets, and reach where this machine reaches. */
export const mayAdminister = (person: Person): boolean => person.roles.includes('administrator');

/** Roles that see a table as soon as a release has made it; others are granted it by name. */
export const seeNewTables: readonly Role[] = ['owner', 'steward', 'administrator'];
