import type {
  HolidaysData,
  OwnFormatsData,
  OwnFormatsInput,
  WorkspaceData,
  WorkspaceInput,
} from '../../contract/workspace';
import { mayAdminister } from '../../core/access/rules';
import { daysOff } from '../../core/closed-days';
import { issue, type Issue } from '../../core/kernel/issue';
import { forbidden, invalid, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { putOwnFormats, putWorkspace, readOwnFormats, readSettings } from '../../data/system/workspace';
import { asPerson } from '../../data/transaction';
import { localTime, type Context } from './asking';
import { allDaysOff, countries, partsOf, publicHolidays, yearsAround } from './public-holidays';

/** Years ahead that are shown. */
const SHOWN = 2;

/** What holds for the whole workspace, with what there is to choose from. */
export async function openSettings(context: Context): Promise<Result<WorkspaceData, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('workspace'));
  const found = await asPerson({ person: context.person.id }, async (tx, { workspace }) =>
    ok({ settings: await readSettings(tx), today: localTime(workspace, context.now).slice(0, 10) }),
  );
  if (!found.ok) return found;
  const { settings, today } = found.value;
  return ok({
    settings,
    today,
    holidays: await holidaysAhead(settings.holidaysOf, today),
    countries: await countries(),
    zones: ZONES,
    currencies: CURRENCIES,
  });
}

const ZONES = Intl.supportedValuesOf('timeZone');
const CURRENCIES = Intl.supportedValuesOf('currency');

async function holidaysAhead(of: string, today: string): Promise<HolidaysData> {
  const years = yearsAround(today).slice(1, 1 + SHOWN);
  const days = daysOff(await publicHolidays(of, years), []).filter(({ day }) => day >= today);
  return { days, parts: await partsOf(of) };
}

/** What a place would bring, before it is saved. */
export async function previewHolidays(
  { person, now }: Context,
  { of }: { readonly of: string },
): Promise<Result<HolidaysData, Refusal>> {
  return mayAdminister(person)
    ? ok(await holidaysAhead(of, now.toISOString().slice(0, 10)))
    : fail(forbidden('workspace'));
}

/** How whoever asks reads days and numbers. */
export function openOwnFormats({ person }: Context): Promise<Result<OwnFormatsData, Refusal>> {
  return asPerson({ person: person.id }, async (tx, { workspace }) =>
    ok({ own: await readOwnFormats(tx, person.id), house: workspace.formats }),
  );
}

export function keepOwnFormats({ person }: Context, own: OwnFormatsInput): Promise<Result<null, Refusal>> {
  return asPerson({ person: person.id }, async (tx) => {
    await putOwnFormats(tx, person.id, own);
    return ok(null);
  });
}

/** Changes what holds for the whole workspace, from now on: also for what is under way. */
export async function keepSettings(
  context: Context,
  input: WorkspaceInput,
): Promise<Result<{ version: number }, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('workspace'));
  const issues = await settingsIssues(input);
  if (issues.length > 0) return fail(invalid(...issues));
  const holidays = await allDaysOff(input, localTime(input, context.now));
  return asPerson({ person: context.person.id }, async (tx) =>
    (await putWorkspace(tx, { ...input, holidays }))
      ? ok({ version: input.version + 1 })
      : fail(stale('workspace-changed')),
  );
}

async function settingsIssues(input: WorkspaceInput): Promise<Issue[]> {
  const { zone, currency, opens, closes, workdays, holidaysOf: of, closed } = input;
  const known = of === '' || [...(await countries()), ...(await partsOf(of))].some(({ code }) => code === of);
  return [
    ...(ZONES.includes(zone) || zone === 'UTC' ? [] : [issue('zone-unknown', ['zone'])]),
    ...(currency === '' || CURRENCIES.includes(currency) ? [] : [issue('currency-unknown', ['currency'])]),
    ...(workdays.length === 0 ? [issue('no-workdays', ['workdays'])] : []),
    ...(opens < closes ? [] : [issue('closes-before-opening', ['closes'])]),
    ...(known ? [] : [issue('place-unknown', ['holidaysOf'])]),
    ...closed.flatMap(({ from, until }, i) => closedIssues(from, until, i)),
  ];
}

function closedIssues(from: string, until: string, i: number): Issue[] {
  if (until < from) return [issue('back-before-away', ['closed', i, 'until'])];
  const days = (Date.parse(until) - Date.parse(from)) / 86_400_000 + 1;
  return days > limits.closedInARow
    ? [issue('closed-too-long', ['closed', i, 'until'], { most: limits.closedInARow })]
    : [];
}
