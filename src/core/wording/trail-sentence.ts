import type { TrailLine, TrailSubject, TrailVerb } from '../trail/line';
import { speak, spoken } from './speak';

/** What a line is about, as one picks it. */
export const subjectWords = spoken((): Readonly<Record<TrailSubject, string>> => ({
  person: speak`people`,
  group: speak`groups`,
  right: speak`who may do what`,
  form: speak`forms`,
  release: speak`releases`,
  table: speak`tables`,
  column: speak`columns`,
  list: speak`choice lists`,
  source: speak`sources outside`,
  'linked-table': speak`linked tables`,
  'form-writes': speak`what forms write to`,
  token: speak`API tokens`,
  address: speak`addresses for events`,
  'outside-link': speak`links for people outside`,
  'outside-words': speak`what people outside meet`,
  workspace: speak`the workspace`,
  absence: speak`absences`,
  password: speak`passwords`,
  invitation: speak`invitations`,
  session: speak`signing in`,
  'second-step': speak`codes for signing in`,
  passkey: speak`passkeys`,
  provider: speak`services for signing in`,
  look: speak`looking as somebody`,
  'people-list': speak`the list of people`,
  'personal-search': speak`looking for one person’s data`,
  'personal-data': speak`one person’s data`,
}));

type Say = (label: string) => string;
type Words = Readonly<Partial<Record<TrailVerb, Say>>>;
const thing = (noun: string): Words => ({
  made: (label) => speak`Made the ${noun} ${label}`,
  changed: (label) => speak`Changed the ${noun} ${label}`,
  removed: (label) => speak`Removed the ${noun} ${label}`,
});

const sentences = spoken((): Readonly<Record<TrailSubject, Words>> => ({
  person: {
    made: (label) => speak`Added ${label}`,
    changed: (label) => speak`Changed what is known of ${label}`,
  },
  group: thing(speak`group`),
  right: {
    made: (label) => speak`Gave a right on ${label}`,
    changed: (label) => speak`Changed a right on ${label}`,
    removed: (label) => speak`Took away a right on ${label}`,
  },
  form: thing(speak`form`),
  release: {
    made: (label) => speak`Released ${label}`,
    removed: (label) => speak`Removed a release of ${label}`,
  },
  table: thing(speak`table`),
  column: thing(speak`column`),
  list: thing(speak`choice list`),
  source: thing(speak`source`),
  'linked-table': {
    made: (label) => speak`Linked ${label}`,
    changed: (label) => speak`Changed how ${label} is linked`,
    removed: (label) => speak`Ended the link of ${label}`,
  },
  'form-writes': {
    made: (label) => speak`Let a form write to ${label}`,
    changed: (label) => speak`Changed what a form may in ${label}`,
    removed: (label) => speak`Ended that a form writes to ${label}`,
  },
  token: thing(speak`API token`),
  address: thing(speak`address for events`),
  'outside-link': thing(speak`link for people outside`),
  'outside-words': {
    made: (label) => speak`Opened ${label} to people outside`,
    changed: (label) => speak`Changed what people outside meet in ${label}`,
  },
  workspace: { changed: () => speak`Changed the workspace` },
  absence: {
    made: (label) => speak`Said that ${label} is away`,
    changed: (label) => speak`Changed an absence of ${label}`,
    removed: (label) => speak`Removed an absence of ${label}`,
  },
  password: {
    made: (label) => speak`Set a first password of ${label}`,
    changed: (label) => speak`Changed the password of ${label}`,
  },
  invitation: { made: (label) => speak`Made a link for ${label} to choose a password` },
  session: {
    made: (label) => speak`${label} signed in`,
    removed: (label) => speak`Ended a session of ${label}`,
    refused: (label) =>
      label === '' ? speak`Somebody nobody knows was not let in` : speak`Somebody was not let in as ${label}`,
  },
  'second-step': {
    made: (label) => speak`${label} signs in with a code from now on`,
    removed: (label) => speak`${label} signs in without a code from now on`,
  },
  passkey: {
    made: (label) => speak`Added a passkey of ${label}`,
    removed: (label) => speak`Removed a passkey of ${label}`,
  },
  provider: thing(speak`service for signing in`),
  look: { made: (label) => speak`Looked as ${label}` },
  'people-list': {
    made: (label) => speak`Had the list of people followed from ${label}`,
    changed: (label) => speak`Changed how the list of people is followed from ${label}`,
    removed: (label) => speak`Ended that the list of people is followed from ${label}`,
  },
  'personal-search': { made: () => speak`Looked for what is kept about somebody` },
  'personal-data': {
    made: (label) => speak`Took out what is kept about somebody: ${label}`,
    removed: (label) => speak`Erased what is kept about somebody: ${label}`,
  },
}));

/** What was done, as one says it. */
export function trailSentence({
  subject,
  verb,
  label,
}: Pick<TrailLine, 'subject' | 'verb' | 'label'>): string {
  const name = label === '' && subject !== 'session' ? speak`something that is gone` : label;
  return sentences()[subject][verb]?.(name) ?? `${subjectWords()[subject]}: ${verb} ${name}`;
}

const columnWords = spoken((): Readonly<Record<string, string>> => ({
  manager_id: speak`manager`,
  deputy_id: speak`deputy`,
  ended_at: speak`ended`,
  stopped_at: speak`stopped`,
  stopped_because: speak`stopped because`,
  group_id: speak`for the group`,
  person_id: speak`for`,
  role: speak`for all who are`,
  where_rule: speak`where`,
  owner_id: speak`owner`,
  source_id: speak`source`,
  form_id: speak`form`,
  stand_in_id: speak`who stands in`,
  is_unique: speak`unique`,
  target_id: speak`refers to`,
  list_id: speak`choice list`,
  default_value: speak`begins with`,
  from_day: speak`from`,
  until_day: speak`until`,
  expires_at: speak`works until`,
  ends_at: speak`ends`,
  table_ids: speak`tables`,
  form_ids: speak`forms`,
  user_agent: speak`with`,
  holidays_of: speak`public holidays of`,
  mail_to: speak`mailed to`,
  logo_id: speak`logo`,
  ends_access: speak`ends the access of who is not in it`,
  named_by_id: speak`as`,
}));

const NAMES = new Set(['label', 'name']);
const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** What was changed, a line for each: “place: Fern house → Nursery”. `nameOf` says what an id stands for; null for what is gone. */
export function changedLines(
  { verb, changed }: Pick<TrailLine, 'verb' | 'changed'>,
  nameOf: (id: string) => string | null,
): string[] {
  const said = (text: string | null): string =>
    listed(text ?? '').replace(UUID, (id) => nameOf(id) ?? speak`something that is gone`) || speak`nothing`;
  // What it is called stands in the sentence already.
  const told = Object.entries(changed).filter(([column]) => verb === 'changed' || !NAMES.has(column));
  return told.map(([column, values]) => {
    const name = columnWords()[column] ?? column.replaceAll('_', ' ');
    if (values === 'secret') return speak`${name}: another one`;
    const [was, is] = values;
    if (verb === 'changed') return `${name}: ${said(was)} → ${said(is)}`;
    return `${name}: ${said(is ?? was)}`;
  });
}

/** A list as it is kept, as people write one; what was cut off stays as it is. */
function listed(text: string): string {
  if (!text.startsWith('[') || !text.endsWith(']')) return text;
  try {
    const all = JSON.parse(text) as unknown[];
    return all.every((one) => typeof one === 'string' || typeof one === 'number') ? all.join(', ') : text;
  } catch {
    return text;
  }
}
