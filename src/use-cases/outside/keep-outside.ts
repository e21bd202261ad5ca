import { randomBytes } from 'node:crypto';
import { Temporal } from 'temporal-polyfill';
import type { LinkData, OutsideData, ShownOutside } from '../../contract/outside';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { questionsOf, type FormDesign } from '../../core/form/design';
import type { Language } from '../../core/formats/formats';
import { issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import { invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { linkState, lookupsIn, siteOf } from '../../core/outside/link';
import type { Tx } from '../../data/connect';
import { origin } from '../../data/origin';
import { liveRelease, type ReleaseRow } from '../../data/system/forms';
import {
  linksTo,
  makeLink,
  putOutside,
  readOutside,
  stopLink,
  type LinkRow,
} from '../../data/system/outside';
import { asPerson } from '../../data/transaction';
import { designedForm } from '../forms/edit-form';
import { compiled } from '../submissions/compiled-release';
import { pickFrom } from '../submissions/pick-sources';
import { instantOf, type Context } from '../workspace/asking';

/** How a form meets people outside, and by which links they come; for those who design it. */
export const outsideOf = (context: Context, form: string): Promise<Result<OutsideData, Refusal>> =>
  designing(context, form, async (tx, catalogue) => ok(await outsideData(tx, catalogue, context, form)));

interface SaidOutside {
  readonly version: number;
  readonly welcome: string;
  readonly thanks: string;
  readonly lookups: readonly string[];
  readonly origins: readonly string[];
  readonly mailTo: string | null;
  readonly language: Language | null;
}

export const sayOutside = (
  context: Context,
  form: string,
  said: SaidOutside,
): Promise<Result<OutsideData, Refusal>> =>
  designing(context, form, async (tx, catalogue) => {
    const origins = said.origins.map(siteOf);
    const wrong = origins.flatMap((one, i) =>
      one === null ? [issue('not-a-site', ['origins', i], { given: said.origins[i] ?? '' })] : [],
    );
    if (wrong.length > 0) return fail(invalid(...wrong));
    const sites = [...new Set(origins.filter((one) => one !== null))];
    const { welcome, thanks, mailTo, language, version } = said;
    return (await putOutside(tx, form, {
      welcome,
      thanks,
      lookups: [...said.lookups],
      origins: sites,
      mailTo,
      language,
      version,
    }))
      ? ok(await outsideData(tx, catalogue, context, form))
      : fail(stale('outside-changed'));
  });

interface NewLink {
  readonly id: string;
  readonly label: string;
  readonly until: string | null;
  readonly most: number | null;
}

/** Makes a link; its maker stands where a step asks the manager of whoever sends by it. */
export const addLink = (
  context: Context,
  form: string,
  { id, label, until, most }: NewLink,
): Promise<Result<OutsideData, Refusal>> =>
  designing(context, form, async (tx, catalogue) => {
    const links = await linksTo(tx, form);
    // Sent again, because the answer to it was lost.
    if (links.some((one) => one.id === id)) return ok(await outsideData(tx, catalogue, context, form));
    if (links.length >= limits.links)
      return fail(invalid(issue('too-many', [], { what: 'links', most: limits.links })));
    const endsAt = until === null ? null : instantOf(catalogue.workspace, dayAfter(until));
    if (endsAt !== null && endsAt <= context.now) return fail(invalid(issue('day-is-over', ['until'])));
    if ((await readOutside(tx, form)) === null)
      await putOutside(tx, form, {
        welcome: '',
        thanks: '',
        lookups: [],
        origins: [],
        mailTo: null,
        language: null,
        version: 0,
      });
    const secret = randomBytes(32).toString('base64url');
    await makeLink(tx, { id, formId: form, personId: newUuid(), label, secret, endsAt, most });
    return ok(await outsideData(tx, catalogue, context, form));
  });

/** The first moment after a day. */
const dayAfter = (day: string): string => `${Temporal.PlainDate.from(day).add({ days: 1 }).toString()}T00:00`;

/** Nobody comes in by it from now on; what was sent by it goes its way, and is followed. */
export const endLink = (
  context: Context,
  form: string,
  link: string,
): Promise<Result<OutsideData, Refusal>> =>
  designing(context, form, async (tx, catalogue) =>
    (await stopLink(tx, form, link))
      ? ok(await outsideData(tx, catalogue, context, form))
      : fail(notFound('link')),
  );

const designing = <T>(
  context: Context,
  form: string,
  work: (tx: Tx, catalogue: Catalogue) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> =>
  asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const designed = await designedForm(tx, catalogue, context, form);
    return designed.ok ? work(tx, catalogue) : designed;
  });

async function outsideData(
  tx: Tx,
  catalogue: Catalogue,
  { now }: Context,
  form: string,
): Promise<OutsideData> {
  const said = await readOutside(tx, form);
  const release = await liveRelease(tx, catalogue, form);
  return {
    version: said?.version ?? 0,
    welcome: said?.welcome ?? '',
    thanks: said?.thanks ?? '',
    lookups: said?.lookups ?? [],
    origins: said?.origins ?? [],
    mailTo: said?.mailTo ?? null,
    language: said?.language ?? null,
    addresses: release === null ? [] : addressesIn(release.design),
    isLive: release !== null,
    shows: release === null ? [] : shownBy(catalogue, release),
    links: (await linksTo(tx, form)).map((link) => linkData(catalogue, now, link)),
  };
}

const addressesIn = (design: FormDesign): OutsideData['addresses'] =>
  questionsOf(design).flatMap(({ kind, id, label, onNew }) =>
    kind === 'e-mail' && onNew !== 'hidden' ? [{ id, label }] : [],
  );

function shownBy(catalogue: Catalogue, release: ReleaseRow): ShownOutside[] {
  const form = compiled(catalogue, release);
  return lookupsIn(release.design).map((question) => {
    const from = pickFrom(form, catalogue.tables, question);
    const table = from?.table;
    const named = (table?.columns ?? []).filter(({ id }) => table?.title.includes(id));
    const shown = [...new Set([...named, ...(from?.show ?? [])])];
    return {
      id: question.id,
      label: question.label,
      table: table?.label ?? '',
      columns: shown.map(({ label }) => label),
      read: (from?.read ?? []).filter((one) => !shown.includes(one)).map(({ label }) => label),
    };
  });
}

function linkData({ people }: Catalogue, now: Date, link: LinkRow): LinkData {
  const { id, label, secret, madeById, madeAt, endsAt, most, sent, stoppedAt } = link;
  const facts = { stopped: stoppedAt !== null, endsAt: endsAt?.toISOString() ?? null, most, sent };
  return {
    id,
    label,
    address: `${origin()}/open/${secret}`,
    madeBy: people.get(madeById)?.name ?? '',
    madeAt: madeAt.toISOString(),
    endsAt: facts.endsAt,
    most,
    sent,
    state: linkState(facts, now),
  };
}
