import { z } from 'zod';
import type { Role } from '../core/access/rules';
import type { FormAction, Grant, Group, TableAction } from '../core/catalogue/catalogue';
import type { AbsenceData } from './absences';
import { limits } from '../core/limits';

const label = z.string().trim().min(1).max(limits.label);
/** Beside what everybody may do. */
export const extraRoles = ['owner', 'steward', 'administrator'] as const satisfies readonly Role[];

export const keepPerson = z
  .object({
    name: label,
    email: z.email().max(254),
    place: z.string().trim().max(limits.label),
    roles: z.array(z.enum(extraRoles)).max(extraRoles.length),
    manager: z.uuid().nullable(),
    deputy: z.uuid().nullable(),
  })
  .strict();
export type PersonInput = z.infer<typeof keepPerson>;
export const endAccess = z.object({ to: z.uuid() }).strict();
export const noBody = z.object({}).strict();

export const keepGroup = z
  .object({ label, people: z.array(z.uuid()).max(10_000), groups: z.array(z.uuid()).max(500) })
  .strict();
export type GroupInput = z.infer<typeof keepGroup>;

const token = z.string().min(20).max(100);
export const readInvitation = z.object({ token }).strict();
export const takeInvitation = z.object({ token, password: z.string().min(1).max(200) }).strict();

const grants = <A extends string>(actions: readonly [A, ...A[]]) =>
  z
    .array(
      z
        .object({
          action: z.enum(actions),
          role: z.enum(['owner', 'steward', 'administrator', 'colleague']).nullable(),
          groupId: z.uuid().nullable(),
          personId: z.uuid().nullable(),
        })
        .strict()
        .refine(
          ({ role, groupId, personId }) =>
            [role, groupId, personId].filter((one) => one !== null).length <= 1,
        ),
    )
    .max(2_000);
/** The ids of the grants that stood there when somebody began to say otherwise. */
const seen = z.array(z.uuid()).max(2_000);
export const formGrants = z.object({ grants: grants(['fill', 'see-all', 'design']), seen }).strict();
export const tableGrants = z
  .object({ grants: grants(['see', 'add', 'change', 'remove', 'pick', 'design']), seen })
  .strict();

/** A grant as it is sent: whom it is for, and what they may do. */
export type GrantInput = Pick<Grant, 'role' | 'groupId' | 'personId'> & {
  readonly action: FormAction | TableAction;
};

export interface PersonData {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly place: string;
  readonly roles: readonly Role[];
  readonly manager: string | null;
  readonly deputy: string | null;
  readonly ended: boolean;
  /** Whether they have chosen a password, and so can sign in. */
  readonly joined: boolean;
  /** How many forms they own. */
  readonly forms: number;
}

export interface PeopleData {
  /** Who asks. */
  readonly me: string;
  readonly people: readonly PersonData[];
  readonly groups: readonly Group[];
  /** Of everybody, today and to come. */
  readonly away: readonly AbsenceData[];
}

/** The address that lets somebody choose a password, shown once. */
export interface InvitationData {
  readonly path: string;
  readonly expiresAt: string;
}

/** Who may do what with one form or table, and whom it may be said of. */
export interface WhoData {
  readonly grants: readonly Grant[];
  readonly people: readonly {
    readonly id: string;
    readonly name: string;
    readonly place: string;
    readonly roles: readonly Role[];
  }[];
  /** With everybody in them, also by groups that they hold. */
  readonly groups: readonly {
    readonly id: string;
    readonly label: string;
    readonly people: readonly string[];
  }[];
  readonly mayChange: boolean;
}
