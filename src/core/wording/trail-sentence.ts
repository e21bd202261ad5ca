import type { TrailLine, TrailSubject, TrailVerb } from '../trail/line';

/** What a line is about, as one picks it. */
export const subjectWords: Readonly<Record<TrailSubject, string>> = {
  person: 'people',
  group: 'groups',
  right: 'who may do what',
  form: 'forms',
  release: 'releases',
  table: 'tables',
  column: 'columns',
  list: 'choice lists',
  source: 'sources outside',
  'linked-table': 'linked tables',
  'form-writes': 'what forms write to',
  token: 'API tokens',
  address: 'addresses for events',
  'outside-link': 'links for people outside',
  'outside-words': 'what people outside meet',
  workspace: 'the workspace',
  absence: 'absences',
  password: 'passwords',
  invitation: 'invitations',
  session: 'signing in',
  'second-step': 'codes for signing in',
  passkey: 'passkeys',
  provider: 'services for signing in',
  look: 'looking as somebody',
  'personal-search': 'looking for one person’s data',
  'personal-data': 'one person’s data',
};

type Say = (label: string) => string;
type Words = Readonly<Partial<Record<TrailVerb, Say>>>;
const thing = (noun: string): Words => ({
  made: (label) => `Made the ${noun} ${label}`,
  changed: (label) => `Changed the ${noun} ${label}`,
  removed: (label) => `Removed the ${noun} ${label}`,
});

const sentences: Readonly<Record<TrailSubject, Words>> = {
  person: { made: (label) => `Added ${label}`, changed: (label) => `Changed what is known of ${label}` },
  group: thing('group'),
  right: {
    made: (label) => `Gave a right on ${label}`,
    changed: (label) => `Changed a right on ${label}`,
    removed: (label) => `Took away a right on ${label}`,
  },
  form: thing('form'),
  release: { made: (label) => `Released ${label}`, removed: (label) => `Removed a release of ${label}` },
  table: thing('table'),
  column: thing('column'),
  list: thing('choice list'),
  source: thing('source'),
  'linked-table': {
    made: (label) => `Linked ${label}`,
    changed: (label) => `Changed how ${label} is linked`,
    removed: (label) => `Ended the link of ${label}`,
  },
  'form-writes': {
    made: (label) => `Let a form write to ${label}`,
    changed: (label) => `Changed what a form may in ${label}`,
    removed: (label) => `Ended that a form writes to ${label}`,
  },
  token: thing('API token'),
  address: thing('address for events'),
  'outside-link': thing('link for people outside'),
  'outside-words': {
    made: (label) => `Opened ${label} to people outside`,
    changed: (label) => `Changed what people outside meet in ${label}`,
  },
  workspace: { changed: () => 'Changed the workspace' },
  absence: {
    made: (label) => `Said that ${label} is away`,
    changed: (label) => `Changed an absence of ${label}`,
    removed: (label) => `Removed an absence of ${label}`,
  },
  password: {
    made: (label) => `Set a first password of ${label}`,
    changed: (label) => `Changed the password of ${label}`,
  },
  invitation: { made: (label) => `Made a link for ${label} to choose a password` },
  session: {
    made: (label) => `${label} signed in`,
    removed: (label) => `Ended a session of ${label}`,
    refused: (label) =>
      label === '' ? 'Somebody nobody knows was not let in' : `Somebody was not let in as ${label}`,
  },
  'second-step': {
    made: (label) => `${label} signs in with a code from now on`,
    removed: (label) => `${label} signs in without a code from now on`,
  },
  passkey: {
    made: (label) => `Added a passkey of ${label}`,
    removed: (label) => `Removed a passkey of ${label}`,
  },
  provider: thing('service for signing in'),
  look: { made: (label) => `Looked as ${label}` },
  'personal-search': { made: () => 'Looked for what is kept about somebody' },
  'personal-data': {
    made: (label) => `Took out what is kept about somebody: ${label}`,
    removed: (label) => `Erased what is kept about somebody: ${label}`,
  },
};

/** What was done, as one says it. */
export function trailSentence({
  subject,
  verb,
  label,
}: Pick<TrailLine, 'subject' | 'verb' | 'label'>): string {
  const name = label === '' && subject !== 'session' ? 'something that is gone' : label;
  return sentences[subject][verb]?.(name) ?? `${subjectWords[subject]}: ${verb} ${name}`;
}

const columnWords: Readonly<Record<string, string>> = {
  manager_id: 'manager',
  deputy_id: 'deputy',
  ended_at: 'ended',
  stopped_at: 'stopped',
  stopped_because: 'stopped because',
  group_id: 'for the group',
  person_id: 'for',
  role: 'for all who are',
  where_rule: 'where',
  owner_id: 'owner',
  source_id: 'source',
  form_id: 'form',
  stand_in_id: 'who stands in',
  is_unique: 'unique',
  target_id: 'refers to',
  list_id: 'choice list',
  default_value: 'begins with',
  from_day: 'from',
  until_day: 'until',
  expires_at: 'works until',
  ends_at: 'ends',
  table_ids: 'tables',
  form_ids: 'forms',
  user_agent: 'with',
  holidays_of: 'public holidays of',
  mail_to: 'mailed to',
};

const NAMES = new Set(['label', 'name']);
const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** What was changed, a line for each: “place: Fern house → Nursery”. `nameOf` says what an id stands for; null for what is gone. */
export function changedLines(
  { verb, changed }: Pick<TrailLine, 'verb' | 'changed'>,
  nameOf: (id: string) => string | null,
): string[] {
  const said = (text: string | null): string =>
    listed(text ?? '').replace(UUID, (id) => nameOf(id) ?? 'something that is gone') || 'nothing';
  // What it is called stands in the sentence already.
  const told = Object.entries(changed).filter(([column]) => verb === 'changed' || !NAMES.has(column));
  return told.map(([column, values]) => {
    const name = columnWords[column] ?? column.replaceAll('_', ' ');
    if (values === 'secret') return `${name}: another one`;
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
