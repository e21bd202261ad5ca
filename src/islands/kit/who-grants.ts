import type { GrantInput, WhoData } from '../../contract/people';
import { SEE_COLUMNS, type FormAction, type Subject, type TableAction } from '../../core/catalogue/catalogue';
import { grouped } from '../../core/kernel/grouped';

export type Action = FormAction | TableAction;

/** Whom a grant is for, as one word: `all` (every person is a colleague), `role owner`, `group …` or `person …`. */
export const wordOf = ({ role, groupId, personId }: Subject): string =>
  role !== null && role !== 'colleague'
    ? `role ${role}`
    : groupId !== null
      ? `group ${groupId}`
      : personId !== null
        ? `person ${personId}`
        : 'all';

function subjectOf(word: string): Subject {
  const [what, id = ''] = word.split(' ');
  return {
    role: what === 'role' ? (id as NonNullable<Subject['role']>) : null,
    groupId: what === 'group' ? id : null,
    personId: what === 'person' ? id : null,
  };
}

/** By action, for whom it is granted, for all records. */
export type Words = Readonly<Record<string, readonly string[]>>;

export function wordsOf({ grants }: Pick<WhoData, 'grants'>): Words {
  const words: Record<string, string[]> = {};
  for (const grant of grants)
    if (grant.where === null && grant.action !== SEE_COLUMNS)
      words[grant.action] = [...(words[grant.action] ?? []), wordOf(grant)];
  // Whoever else is named beside everybody says nothing.
  return Object.fromEntries(
    Object.entries(words).map(([action, list]) => [action, list.includes('all') ? ['all'] : list]),
  );
}

/** Who may do something with some records only: those where a rule holds. */
export interface Some {
  readonly action: Action;
  /** FEEL as stored text; empty while it is not said yet. */
  readonly where: string;
  readonly words: readonly string[];
}

/** What is granted for some records, those of one rule together. */
export function someOf({ grants }: Pick<WhoData, 'grants'>): Some[] {
  const found = new Map<string, Some>();
  for (const grant of grants) {
    const { action, where } = grant;
    if (where === null || action === SEE_COLUMNS) continue;
    const before = found.get(`${action} ${where}`)?.words ?? [];
    found.set(`${action} ${where}`, { action, where, words: [...before, wordOf(grant)] });
  }
  return [...found.values()];
}

/** Who sees a restricted column besides those who design its table, by column. */
export function columnWordsOf({ grants, records }: Pick<WhoData, 'grants' | 'records'>): Words {
  const { columns = [], retired = [] } = records?.table ?? {};
  const kept = [...columns, ...retired].filter(({ restricted }) => restricted);
  return Object.fromEntries(
    kept.map(({ id }) => [id, grants.filter((one) => one.columns?.includes(id) === true).map(wordOf)]),
  );
}

/** The other way round: what each of them sees. */
const columnGrants = (seen: Words): GrantInput[] =>
  [
    ...grouped(
      Object.entries(seen).flatMap(([column, words]) => words.map((word) => ({ column, word }))),
      ({ word }) => word,
    ),
  ].map(([word, own]) => ({
    action: SEE_COLUMNS,
    ...subjectOf(word),
    where: null,
    columns: own.map(({ column }) => column).sort(),
  }));

export const grantsOf = (words: Words, some: readonly Some[] = [], columns: Words = {}): GrantInput[] => [
  ...Object.entries(words).flatMap(([action, list]) =>
    list.map((word) => ({ action: action as Action, ...subjectOf(word), where: null })),
  ),
  ...some.flatMap(({ action, where, words: list }) =>
    list.map((word) => ({ action, ...subjectOf(word), where })),
  ),
  ...columnGrants(columns),
];

/** The people, by id, that a list of words comes to. */
export function peopleOf({ people, groups }: Pick<WhoData, 'people' | 'groups'>, words: readonly string[]) {
  const found = new Set<string>();
  for (const word of words) {
    const { role, groupId, personId } = subjectOf(word);
    for (const person of people)
      if (
        word === 'all' ||
        person.id === personId ||
        (role !== null && person.roles.includes(role)) ||
        groups.some(({ id, people: inside }) => id === groupId && inside.includes(person.id))
      )
        found.add(person.id);
  }
  return found;
}

/** Who may do what, with all records and with some. */
export interface Saying {
  readonly words: Words;
  readonly some: readonly Some[];
  /** By restricted column, who sees it besides those who design the table. */
  readonly columns: Words;
}

/** Who could do something before and could not after with any record, by name: what a change takes away. */
export function takenAway(data: WhoData, before: Saying, after: Saying, action: Action): string[] {
  const [had, has] = [before, after].map((one) =>
    peopleOf(data, [
      ...(one.words[action] ?? []),
      ...one.some.filter((line) => line.action === action).flatMap(({ words }) => words),
    ]),
  ) as [Set<string>, Set<string>];
  return data.people.filter(({ id }) => had.has(id) && !has.has(id)).map(({ name }) => name);
}

/** Who sees a column in a saying: of those who see the table, if only some of it. */
function columnSeers(data: WhoData, { words, some, columns }: Saying, column: string): Set<string> {
  const seers = peopleOf(data, [
    ...(words['see'] ?? []),
    ...some.filter(({ action }) => action === 'see').flatMap((line) => line.words),
  ]);
  const named = columns[column];
  if (named === undefined) return seers;
  const told = peopleOf(data, [...named, ...(words['design'] ?? [])]);
  return new Set([...seers].filter((id) => told.has(id)));
}

/** Who saw a column before and would not after, by name. */
export function columnTaken(data: WhoData, before: Saying, after: Saying, column: string): string[] {
  const [saw, sees] = [columnSeers(data, before, column), columnSeers(data, after, column)];
  return data.people.filter(({ id }) => saw.has(id) && !sees.has(id)).map(({ name }) => name);
}
