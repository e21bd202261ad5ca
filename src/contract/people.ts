import { z } from 'zod';
import type { Role } from '../core/access/rules';
import { SEE_COLUMNS, type Grant, type GrantAction, type Group } from '../core/catalogue/catalogue';
import type { AbsenceData } from './absences';
import type { DirectoryPlan } from '../core/directory/directory-plan';
import { limits } from '../core/limits';
import type { Table } from '../core/table/model';

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

export const askForPassword = z.object({ email: z.email().max(254) }).strict();

/** What is too long is told at its line; this only bounds it. */
const listed = z.string().max(2_000);
const directoryRow = z
  .object({
    email: listed,
    name: listed,
    place: listed.optional(),
    manager: listed.optional(),
    groups: z.array(listed).max(50).optional(),
    entry: listed.optional(),
  })
  .strict();
const directoryList = z.array(directoryRow).min(1).max(limits.directory);
export const planDirectory = z.object({ rows: directoryList }).strict();
/** `seen`: the plan that was looked over; `leave`: whose access ends, of those who are not in the list. */
export const followDirectory = z
  .object({ rows: directoryList, seen: z.string().max(100), leave: z.array(z.uuid()).max(limits.directory) })
  .strict();

/** What a list would change, and by what it is known that nothing else has changed since. */
export interface DirectoryData {
  readonly plan: DirectoryPlan;
  readonly seen: string;
}

/** Whom a link to choose a password is for. */
export interface WelcomeData {
  readonly name: string;
  readonly email: string;
  /** They have a password, and choose another. */
  readonly again: boolean;
}

const subject = {
  role: z.enum(['owner', 'steward', 'administrator', 'colleague']).nullable(),
  groupId: z.uuid().nullable(),
  personId: z.uuid().nullable(),
};
const isOne = ({ role, groupId, personId }: z.infer<z.ZodObject<typeof subject>>): boolean =>
  [role, groupId, personId].filter((one) => one !== null).length <= 1;
const formGrant = z
  .object({ ...subject, action: z.enum(['fill', 'see-all', 'design']) })
  .strict()
  .refine(isOne);
const tableGrant = z
  .object({
    ...subject,
    action: z.enum(['see', SEE_COLUMNS, 'add', 'change', 'remove', 'pick', 'design']),
    /** FEEL over a record and whoever asks, as stored text; null for all records. */
    where: z.string().trim().min(1).max(4_000).nullable(),
    /** The restricted columns that are seen, by id. */
    columns: z
      .array(z.string().min(1).max(60))
      .min(1)
      .max(limits.tableColumns * 2)
      .nullable()
      .default(null),
  })
  .strict()
  .refine(isOne)
  .refine(({ action, where, columns }) =>
    action === SEE_COLUMNS ? columns !== null && where === null : columns === null,
  );
/** The ids of the grants that stood there when somebody began to say otherwise. */
const seen = z.array(z.uuid()).max(2_000);
export const formGrants = z.object({ grants: z.array(formGrant).max(2_000), seen }).strict();
/** `restricted`: which columns are not for everybody who sees the table, by id; as they are where it is not said. */
export const tableGrants = z
  .object({
    grants: z.array(tableGrant).max(2_000),
    seen,
    restricted: z
      .array(z.string().min(1).max(60))
      .max(limits.tableColumns * 2)
      .optional(),
  })
  .strict();
/** What would become of what people see, before it is said. */
export const grantsTried = z.object({ grants: z.array(tableGrant).max(2_000) }).strict();

/** A grant as it is sent: whom it is for, and what they may do. */
export type GrantInput = Pick<Grant, 'role' | 'groupId' | 'personId'> & {
  readonly action: GrantAction;
  readonly where?: string | null;
  readonly columns?: readonly string[] | null;
};

/** What somebody sees of a table, and would see: of whom a change makes a difference. */
export interface SightData {
  readonly person: string;
  readonly now: number;
  readonly then: number;
  /** Of those they see now, how many they would not any more. */
  readonly lost: number;
}
export interface SightsData {
  /** Records of the table. */
  readonly records: number;
  readonly people: readonly SightData[];
  /** For how many more it makes a difference who are not told of here. */
  readonly others: number;
}

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
  /** Whether a code is asked of them besides. */
  readonly asksCode: boolean;
  /** How many forms they own. */
  readonly forms: number;
  /** Whether they came by the list of people that is followed. */
  readonly listed: boolean;
}

export interface PeopleData {
  /** Who asks. */
  readonly me: string;
  readonly people: readonly PersonData[];
  readonly groups: readonly Group[];
  /** Of everybody, today and to come. */
  readonly away: readonly AbsenceData[];
  readonly looked: readonly LookedData[];
  /** Whether a list of people should be followed, and is not. */
  readonly listWaits: boolean;
}

/** When an administrator looked as somebody. */
export interface LookedData {
  readonly as: string;
  readonly by: string;
  readonly from: string;
  /** Null while they do. */
  readonly until: string | null;
}

/** The address that lets somebody choose a password, shown once. */
export interface InvitationData {
  readonly path: string;
  /** Whether it is on its way to them by e-mail as well. */
  readonly mailed: boolean;
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
  /** Of a table, by which conditions over its records are said; null of a form. */
  readonly records: { readonly table: Table; readonly tables: readonly Table[] } | null;
}
