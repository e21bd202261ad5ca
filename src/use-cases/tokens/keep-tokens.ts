import { createHash, randomBytes } from 'node:crypto';
import type { MadeToken, ReachData, TokenData, TokenInput, TokensData } from '../../contract/tokens';
import { mayAdminister } from '../../core/access/rules';
import { may, mayForm, peopleHere, type Catalogue } from '../../core/catalogue/catalogue';
import type { TokenGrant } from '../../core/catalogue/narrowed';
import { issue, type Issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import type { Tx } from '../../data/connect';
import { liveForms } from '../../data/system/forms';
import { endToken, makeToken, readTokens, type TokenRow } from '../../data/system/tokens';
import { asPerson } from '../../data/transaction';
import { instantOf, localTime, type Context } from '../workspace/asking';

const TABLE_ACTIONS = ['see', 'add', 'change', 'remove'] as const;
const FORM_ACTIONS = ['fill', 'see-all'] as const;
const DAY_MS = 86_400_000;

/** All tokens there are and were, and what there is to make another of; for administrators. */
export async function openTokens(context: Context): Promise<Result<TokensData, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const here = peopleHere(catalogue);
    return ok({
      tokens: (await readTokens(tx)).map(({ token, grants }) => shown(catalogue, context, token, grants)),
      me: context.person.id,
      today: localTime(catalogue.workspace, context.now).slice(0, 10),
      people: here.map(({ id, name, place }) => ({ id, name, place })),
      tables: [...catalogue.tables.values()].map(({ id, key, label }) => ({ id, key, label })),
      forms: await formsToFill(tx, catalogue),
    });
  });
}

/** What somebody may, and so the most that a token for them may. */
export async function reachOf(
  context: Context,
  { person }: { readonly person: string },
): Promise<Result<ReachData, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  return asPerson({ person: context.person.id }, async (tx, catalogue) =>
    ok({ may: whatTheyMay(catalogue, person, await formsToFill(tx, catalogue)) }),
  );
}

const formsToFill = async (tx: Tx, catalogue: Catalogue): Promise<TokensData['forms']> =>
  (await liveForms(tx, catalogue))
    .map(({ formId, key, design }) => ({ id: formId, key, label: design.title }))
    .sort((a, b) => a.label.localeCompare(b.label));

const whatTheyMay = (catalogue: Catalogue, person: string, forms: TokensData['forms']): string[] => [
  ...[...catalogue.tables.keys()].flatMap((table) =>
    TABLE_ACTIONS.filter((action) => may(catalogue, person, action, table)).map(
      (action) => `${action} ${table}`,
    ),
  ),
  ...FORM_ACTIONS.flatMap((action) =>
    forms.filter(({ id }) => mayForm(catalogue, person, action, id)).map(({ id }) => `${action} ${id}`),
  ),
];

function shown(
  { people }: Catalogue,
  { now }: Context,
  token: TokenRow,
  grants: readonly TokenGrant[],
): TokenData {
  const { id, label, personId, hint, madeById, madeAt, expiresAt, endedAt, lastUsedAt } = token;
  const over = expiresAt <= now || people.get(personId)?.ended !== false;
  return {
    id,
    label,
    hint,
    person: people.get(personId)?.name ?? '',
    madeBy: people.get(madeById)?.name ?? '',
    madeAt: madeAt.toISOString(),
    expiresAt: expiresAt.toISOString(),
    lastUsedAt: lastUsedAt?.toISOString() ?? null,
    state: endedAt !== null ? 'ended' : over ? 'over' : 'works',
    grants,
  };
}

/** Makes a token, whose secret is told this once. What it may is what its person may, narrowed to what it names. */
export async function addToken(
  context: Context,
  id: string,
  input: TokenInput,
): Promise<Result<MadeToken, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const grants = withSeeing(input.grants);
    const ends = instantOf(catalogue.workspace, `${input.until}T23:59:59`);
    const issues = tokenIssues(catalogue, input, grants, ends.getTime() - context.now.getTime());
    if (issues.length > 0) return fail(invalid(...issues));
    const secret = `slate_${randomBytes(32).toString('base64url')}`;
    const made = await makeToken(
      tx,
      {
        id,
        label: input.label,
        person: input.person,
        hash: hashOf(secret),
        hint: secret.slice(-4),
        expiresAt: ends,
        grants,
      },
      context.now,
    );
    return made ? ok({ secret }) : fail(invalid(issue('not-a-colleague', ['person'])));
  });
}

/** Whoever writes in a table sees it: they are told what became of what they wrote. */
function withSeeing(grants: readonly TokenGrant[]): TokenGrant[] {
  const tables = new Set(grants.flatMap(({ tableId }) => tableId ?? []));
  const seen = [...tables].map((tableId): TokenGrant => ({ tableId, formId: null, action: 'see' }));
  return [...seen, ...grants.filter(({ action }) => action !== 'see')];
}

function tokenIssues(
  catalogue: Catalogue,
  { person }: TokenInput,
  grants: readonly TokenGrant[],
  lastsMs: number,
): Issue[] {
  const { tables, forms } = catalogue;
  const beyond = grants.filter(({ tableId, formId, action }) =>
    tableId === null
      ? !mayForm(catalogue, person, action as (typeof FORM_ACTIONS)[number], formId ?? '')
      : !may(catalogue, person, action as (typeof TABLE_ACTIONS)[number], tableId),
  );
  return [
    ...(catalogue.people.get(person)?.ended === false ? [] : [issue('not-a-colleague', ['person'])]),
    ...(lastsMs > 0 && lastsMs <= limits.tokenDays * DAY_MS
      ? []
      : [issue('token-lasts', ['until'], { most: limits.tokenDays })]),
    ...(grants.length === 0 ? [issue('token-nothing', ['grants'])] : []),
    ...beyond.slice(0, 1).map(({ tableId, formId, action }) =>
      issue('token-beyond', ['grants'], {
        what: `${action} ${tables.get(tableId ?? '')?.label ?? forms.get(formId ?? '')?.key ?? ''}`,
      }),
    ),
  ];
}

/** Ends a token at once, also for what is under way. */
export async function stopToken(context: Context, id: string): Promise<Result<null, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  return asPerson({ person: context.person.id }, async (tx) =>
    (await endToken(tx, id, context.now)) ? ok(null) : fail(notFound('token')),
  );
}

export const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('base64url');
