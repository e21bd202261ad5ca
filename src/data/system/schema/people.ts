import { sql } from 'drizzle-orm';
import {
  bigint,
  bigserial,
  boolean,
  check,
  date,
  index,
  integer,
  jsonb,
  primaryKey,
  smallint,
  text,
  time,
  type AnyPgColumn,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { AccountNews } from '../../../core/wording/account-mail';

import { standardFormats, type Formats } from '../../../core/formats/formats';
import type { ClosedDays } from '../../../core/workspace';
import { slate, at, bytea, made } from './base';

/** Colleagues: the accounts of the sign-in library, with what we know besides. */
export const person = slate.table('person', {
  id: uuid('id').primaryKey(),
  name: text('name').notNull(),
  email: text('email').notNull().unique(),
  emailVerified: boolean('email_verified').notNull().default(false),
  image: text('image'),
  place: text('place').notNull().default(''),
  roles: text('roles')
    .array()
    .notNull()
    .default(sql`'{colleague}'::text[]`),
  managerId: uuid('manager_id').references((): AnyPgColumn => person.id),
  /** Who stands in while this person is away. */
  deputyId: uuid('deputy_id').references((): AnyPgColumn => person.id),
  /** From when on this person is here no more: nobody who has left signs in, is asked or may do anything. */
  endedAt: at('ended_at'),
  /** Whether signing in by a password asks for a code besides. */
  twoFactorEnabled: boolean('asks_code').notNull().default(false),
  ...made,
});

/** What the sign-in library keeps of somebody's second step: the secret of their codes, and codes that are good once, both encrypted. */
export const secondStep = slate.table('second_step', {
  id: uuid('id').primaryKey(),
  userId: uuid('person_id')
    .notNull()
    .unique()
    .references(() => person.id, { onDelete: 'cascade' }),
  secret: text('secret').notNull(),
  backupCodes: text('spare_codes').notNull(),
  /** False until the first code was typed. */
  verified: boolean('verified').notNull().default(false),
  failedVerificationCount: integer('failed').notNull().default(0),
  lockedUntil: at('locked_until'),
  createdAt: at('created_at').notNull().defaultNow(),
  /** The code that was taken last, hashed, and when: it is good once. */
  lastCode: text('last_code'),
  lastAt: at('last_at'),
});

/** A key that a device keeps for somebody and proves without showing it, by the Web Authentication standard. */
export const passkey = slate.table(
  'passkey',
  {
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    label: text('label').notNull(),
    /** As base64url, as the device names it. */
    credentialId: text('credential_id').notNull().unique(),
    /** COSE, as base64url. */
    publicKey: text('public_key').notNull(),
    /** How often it was used, where the device counts that. */
    counter: bigint('counter', { mode: 'number' }).notNull().default(0),
    transports: text('transports')
      .array()
      .notNull()
      .default(sql`'{}'::text[]`),
    createdAt: at('created_at').notNull().defaultNow(),
    lastUsedAt: at('last_used_at'),
  },
  (t) => [index('passkey_person').on(t.personId)],
);

/** The service outside by which people may sign in (OpenID Connect); one at most. */
export const signInProvider = slate.table('sign_in_provider', {
  onlyOne: boolean('only_one').primaryKey().default(true),
  id: uuid('id').notNull().unique(),
  label: text('label').notNull(),
  issuer: text('issuer').notNull(),
  clientId: text('client_id').notNull(),
  /** Sealed. */
  secret: bytea('secret').notNull(),
  version: integer('version').notNull().default(0),
  ...made,
});

/** Who somebody is there, once they have come by it. */
export const providerPerson = slate.table(
  'provider_person',
  {
    providerId: uuid('provider_id')
      .notNull()
      .references(() => signInProvider.id, { onDelete: 'cascade' }),
    subject: text('subject').notNull(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    since: at('since').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.providerId, t.subject] }),
    uniqueIndex('provider_person_once').on(t.providerId, t.personId),
  ],
);

/**
 * When somebody is away, by days of the workspace, both included, and who decides for them meanwhile. What
 * was taken out stays, with who took it out.
 */
export const absence = slate.table(
  'absence',
  {
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    fromDay: date('from_day').notNull(),
    untilDay: date('until_day').notNull(),
    standInId: uuid('stand_in_id')
      .notNull()
      .references(() => person.id),
    byId: uuid('by_id')
      .notNull()
      .references(() => person.id),
    endedAt: at('ended_at'),
    endedById: uuid('ended_by_id').references(() => person.id),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (t) => [
    check('absence_days', sql`${t.untilDay} >= ${t.fromDay}`),
    check('absence_by_another', sql`${t.standInId} <> ${t.personId}`),
    index('absence_stand_in')
      .on(t.standInId)
      .where(sql`${t.endedAt} IS NULL`),
    index('absence_person')
      .on(t.personId)
      .where(sql`${t.endedAt} IS NULL`),
  ],
);

/** An invitation to choose a password. The link that carries the token is shown once; only its hash is kept. */
export const invitation = slate.table('invitation', {
  /** SHA-256 of the token, as base64url. */
  tokenHash: text('token_hash').primaryKey(),
  personId: uuid('person_id')
    .notNull()
    .references(() => person.id, { onDelete: 'cascade' }),
  byId: uuid('by_id')
    .notNull()
    .references(() => person.id),
  expiresAt: at('expires_at').notNull(),
  usedAt: at('used_at'),
});

/** What is still to be mailed to somebody about coming in. It goes once it is mailed. */
export const accountMail = slate.table(
  'account_mail',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    kind: text('kind').$type<AccountNews>().notNull(),
    /** From which the token of its link is made; null where it has none. */
    tokenOf: uuid('token_of'),
    at: at('at').notNull().defaultNow(),
    claimedAt: at('claimed_at'),
  },
  (t) => [
    check(
      'account_mail_kind',
      sql`${t.kind} IN ('invited', 'forgotten', 'changed', 'signing-in', 'stuck', 'stopped', 'people-list')`,
    ),
  ],
);

/** People who may do the same things. A group may hold groups, and a person may be in several. */
export const personGroup = slate.table('person_group', {
  id: uuid('id').primaryKey(),
  label: text('label').notNull().unique(),
  ...made,
});

export const groupMember = slate.table(
  'group_member',
  {
    groupId: uuid('group_id')
      .notNull()
      .references(() => personGroup.id, { onDelete: 'cascade' }),
    personId: uuid('person_id').references(() => person.id, { onDelete: 'cascade' }),
    memberId: uuid('member_id').references(() => personGroup.id, { onDelete: 'cascade' }),
  },
  (t) => [
    uniqueIndex('group_member_once').on(t.groupId, sql`coalesce(${t.personId}, ${t.memberId})`),
    check('group_member_one', sql`num_nonnulls(${t.personId}, ${t.memberId}) = 1`),
    check('group_member_other', sql`${t.memberId} IS DISTINCT FROM ${t.groupId}`),
  ],
);

export const session = slate.table('session', {
  id: uuid('id').primaryKey(),
  token: text('token').notNull().unique(),
  userId: uuid('person_id')
    .notNull()
    .references(() => person.id, { onDelete: 'cascade' }),
  expiresAt: at('expires_at').notNull(),
  ipAddress: text('ip_address'),
  userAgent: text('user_agent'),
  /** When all that signing in asks for was given; before that it is nobody's. */
  provenAt: at('proven_at'),
  /** As whom an administrator looks meanwhile. */
  looksAsId: uuid('looks_as_id').references(() => person.id),
  ...made,
});

/** When which administrator looked as whom. */
export const lookedAs = slate.table(
  'looked_as',
  {
    id: uuid('id').primaryKey(),
    byId: uuid('by_id')
      .notNull()
      .references(() => person.id),
    asId: uuid('as_id')
      .notNull()
      .references(() => person.id),
    sessionId: uuid('session_id').notNull(),
    begunAt: at('begun_at').notNull().defaultNow(),
    endedAt: at('ended_at'),
  },
  (t) => [index('looked_as_of').on(t.asId, t.begunAt)],
);

export const account = slate.table('account', {
  id: uuid('id').primaryKey(),
  accountId: text('account_id').notNull(),
  providerId: text('provider_id').notNull(),
  userId: uuid('person_id')
    .notNull()
    .references(() => person.id, { onDelete: 'cascade' }),
  accessToken: text('access_token'),
  refreshToken: text('refresh_token'),
  idToken: text('id_token'),
  accessTokenExpiresAt: at('access_token_expires_at'),
  refreshTokenExpiresAt: at('refresh_token_expires_at'),
  scope: text('scope'),
  password: text('password'),
  ...made,
});

export const verification = slate.table('verification', {
  id: uuid('id').primaryKey(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: at('expires_at').notNull(),
  ...made,
});

/** What holds for all of it: one row. Part of the catalogue. */
export const workspace = slate.table('workspace', {
  onlyOne: boolean('only_one').primaryKey().default(true),
  name: text('name').notNull().default(''),
  /** IANA name. */
  zone: text('zone').notNull().default('Europe/London'),
  /** ISO 4217, or empty. */
  currency: text('currency').notNull().default(''),
  /** How days and numbers are written, in which language. */
  formats: jsonb('formats').$type<Formats>().notNull().default(standardFormats),
  /** ISO 8601 numbers, 1 for Monday. */
  workdays: smallint('workdays').array().notNull().default([1, 2, 3, 4, 5]),
  /** All days nobody works on, public ones and those of one's own, made by whoever saves the settings and anew each year. */
  holidays: date('holidays').array().notNull().default([]),
  opens: time('opens').notNull().default('09:00'),
  closes: time('closes').notNull().default('17:00'),
  /** Where the public holidays are kept: a country, perhaps with a part of it (ISO 3166, `GB-ENG`); empty where none are. */
  holidaysOf: text('holidays_of').notNull().default(''),
  /** Days one is closed besides. */
  closed: jsonb('closed').$type<readonly ClosedDays[]>().notNull().default([]),
  /** Its sign, as WebP; another one has another id. */
  logoId: uuid('logo_id'),
  logo: bytea('logo'),
  version: integer('version').notNull().default(1),
});

/** Tries to sign in that did not succeed, by account and by address; names are hashes, so that nothing typed is kept. */
export const signInTry = slate.table('sign_in_try', {
  name: text('name').primaryKey(),
  tries: integer('tries').notNull(),
  lastAt: at('last_at').notNull(),
});

/** What somebody has otherwise than their workspace; whatever is not named is as everybody has it. */
export const ownFormats = slate.table('own_formats', {
  personId: uuid('person_id')
    .primaryKey()
    .references(() => person.id, { onDelete: 'cascade' }),
  formats: jsonb('formats').$type<Partial<Formats>>().notNull(),
});

/** A send or decision that was carried out, by the key its sender made up, so that a repeat answers the same and does nothing. */
export const requestKey = slate.table(
  'request_key',
  {
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    key: uuid('key').notNull(),
    /** What was asked under the key, and a hash of it: the same key with another request is refused. */
    operation: text('operation').notNull().default(''),
    bodyHash: text('body_hash').notNull().default(''),
    answer: jsonb('answer'),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.key] }), index('request_key_at').on(t.at)],
);
