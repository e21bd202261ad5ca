import type { Colleague } from '../access/rules';
import type { Group } from '../catalogue/catalogue';
import { folded } from '../kernel/folded';
import { limits } from '../limits';
import type { DirectoryRow } from './directory-rows';

/** What is wrong with a line of a list. */
export interface DirectoryIssue {
  /** From 1, headings not counted. */
  readonly line: number;
  readonly why:
    | 'no-email'
    | 'no-name'
    | 'too-long'
    | 'twice'
    | 'manager-unknown'
    | 'own-manager'
    | 'manager-circle'
    | 'other-address'
    | 'has-left';
  readonly value: string;
}

/** Somebody as the list would have them. */
export interface PlannedPerson {
  /** Null for somebody new. */
  readonly id: string | null;
  readonly email: string;
  readonly name: string;
  readonly place: string;
  /** E-mail address; null for nobody. */
  readonly manager: string | null;
  /** They had left, and are in the list again. */
  readonly back: boolean;
  /** What is other than it was, a manager by their name; empty of somebody new. */
  readonly parts: readonly {
    readonly what: 'name' | 'place' | 'manager';
    readonly was: string;
    readonly now: string;
  }[];
}

interface Member {
  readonly email: string;
  readonly name: string;
}

export interface PlannedGroup {
  /** Null for a new one. */
  readonly id: string | null;
  readonly label: string;
  readonly join: readonly Member[];
  readonly leave: readonly Member[];
}

/** What a list would change. */
export interface DirectoryPlan {
  readonly issues: readonly DirectoryIssue[];
  readonly add: readonly PlannedPerson[];
  readonly change: readonly PlannedPerson[];
  readonly groups: readonly PlannedGroup[];
  /** Who is here and not in the list. */
  readonly missing: readonly { readonly id: string; readonly name: string }[];
  /** Who is known just so. */
  readonly same: number;
}

const EMAIL = /^[^\s@]+@[^\s@]+\.[^\s@]+$/;
const key = (email: string): string => email.trim().toLowerCase();

/** A list without what is wrong in it: who cannot be told stays as they are, and so does whom they work under. */
export function withoutWrong(
  rows: readonly DirectoryRow[],
  issues: readonly DirectoryIssue[],
): readonly DirectoryRow[] {
  const wrong = new Map<number, Set<DirectoryIssue['why']>>();
  for (const { line, why } of issues) wrong.set(line, (wrong.get(line) ?? new Set()).add(why));
  return rows.flatMap((row, i) => {
    const whys = wrong.get(i + 1);
    if (whys === undefined) return [row];
    return [...whys].every((why) => OF_MANAGERS.has(why)) ? [{ ...row, manager: undefined }] : [];
  });
}
const OF_MANAGERS = new Set<DirectoryIssue['why']>(['manager-unknown', 'own-manager', 'manager-circle']);

/** Holds a list against those who are here. People are recognised by their e-mail address; nobody is taken away by a list alone. */
export function directoryPlan(
  rows: readonly DirectoryRow[],
  people: readonly Colleague[],
  groups: readonly Group[],
): DirectoryPlan {
  const known = new Map(people.map((one) => [key(one.email), one] as const));
  const byId = new Map(people.map((one) => [one.id, one] as const));
  /** At which line somebody stands first. */
  const listed = new Map(rows.map(({ email }, i) => [key(email), i] as const).reverse());
  const nameOf = (email: string): string =>
    rows[listed.get(email) ?? -1]?.name ?? known.get(email)?.name ?? email;
  const above = new Map([
    ...people.map(({ email, manager }) => [key(email), key(byId.get(manager ?? '')?.email ?? '')] as const),
    ...rows
      .filter((row) => row.manager !== undefined)
      .map((row) => [key(row.email), key(row.manager ?? '')] as const),
  ]);
  const circles = inCircles(above);
  const planned = rows.map((row) => plannedOf(row, known, byId, nameOf));
  return {
    issues: rows.flatMap((row, i) => [
      ...issuesOf(row, i, known, listed),
      ...(circles.has(key(row.email)) &&
      key(row.manager ?? '') !== '' &&
      key(row.manager ?? '') !== key(row.email)
        ? [{ line: i + 1, why: 'manager-circle' as const, value: row.manager ?? '' }]
        : []),
    ]),
    add: planned.filter(({ id }) => id === null),
    change: planned.filter(({ id, parts, back }) => id !== null && (parts.length > 0 || back)),
    same: planned.filter(({ id, parts, back }) => id !== null && parts.length === 0 && !back).length,
    groups: groupsOf(rows, people, groups),
    missing: people
      .filter(({ ended, outside = false, email }) => !ended && !outside && !listed.has(key(email)))
      .map(({ id, name }) => ({ id, name })),
  };
}

/** Those who are, in the end, above themselves. Each is looked at once, however long the lines of managers are. */
function inCircles(above: ReadonlyMap<string, string>): ReadonlySet<string> {
  const [seen, circles] = [new Set<string>(), new Set<string>()];
  for (const begin of above.keys()) {
    const way = new Map<string, number>();
    let at = begin;
    for (; at !== '' && !seen.has(at); at = above.get(at) ?? '') {
      seen.add(at);
      way.set(at, way.size);
    }
    const from = way.get(at);
    if (from !== undefined) for (const one of [...way.keys()].slice(from)) circles.add(one);
  }
  return circles;
}

/** Of an e-mail address, by RFC 5321. */
const MOST_OF_EMAIL = 254;

function issuesOf(
  { email, name, place = '', manager = '', groups = [] }: DirectoryRow,
  i: number,
  known: ReadonlyMap<string, Colleague>,
  listed: ReadonlyMap<string, number>,
): DirectoryIssue[] {
  const line = i + 1;
  const isHere = (one: string): boolean => known.get(key(one))?.ended === false || listed.has(key(one));
  return [
    ...(EMAIL.test(email) && email.length <= MOST_OF_EMAIL
      ? []
      : [{ line, why: 'no-email' as const, value: email }]),
    ...(name === '' ? [{ line, why: 'no-name' as const, value: email }] : []),
    ...[name, place, ...groups]
      .filter((one) => one.length > limits.label)
      .map((value) => ({ line, why: 'too-long' as const, value })),
    ...(email !== '' && (listed.get(key(email)) ?? i) < i
      ? [{ line, why: 'twice' as const, value: email }]
      : []),
    ...(manager !== '' && key(manager) === key(email)
      ? [{ line, why: 'own-manager' as const, value: manager }]
      : manager !== '' && !isHere(manager)
        ? [{ line, why: 'manager-unknown' as const, value: manager }]
        : []),
  ];
}

function plannedOf(
  row: DirectoryRow,
  known: ReadonlyMap<string, Colleague>,
  byId: ReadonlyMap<string, Colleague>,
  nameOf: (email: string) => string,
): PlannedPerson {
  const before = known.get(key(row.email));
  const above = byId.get(before?.manager ?? '');
  const was = { name: before?.name ?? '', place: before?.place ?? '', manager: key(above?.email ?? '') };
  const said = (what: 'name' | 'place' | 'manager', value: string): string =>
    what === 'manager' && value !== '' ? nameOf(value) : value;
  const now = {
    name: row.name,
    place: row.place ?? was.place,
    manager: row.manager === undefined ? was.manager : key(row.manager),
  };
  return {
    id: before?.id ?? null,
    email: key(row.email),
    name: now.name,
    place: now.place,
    manager: now.manager === '' ? null : now.manager,
    back: before?.ended === true,
    parts:
      before === undefined
        ? []
        : (['name', 'place', 'manager'] as const)
            .filter((what) => now[what] !== was[what])
            .map((what) => ({ what, was: said(what, was[what]), now: said(what, now[what]) })),
  };
}

/** Of each group the list names, those of the list who come in and go out; who is not in the list stays where they are. */
function groupsOf(
  rows: readonly DirectoryRow[],
  people: readonly Colleague[],
  groups: readonly Group[],
): PlannedGroup[] {
  const told = rows.filter((row) => row.groups !== undefined);
  const rowOf = new Map(told.map((row) => [key(row.email), row] as const).reverse());
  const emailOf = new Map(people.map(({ id, email }) => [id, key(email)] as const));
  const byLabel = new Map(groups.map((group) => [folded(group.label), group] as const));
  /** As the list writes them last, each with whom it means. */
  const named = new Map<string, { label: string; meant: Set<DirectoryRow> }>();
  for (const row of told)
    for (const label of row.groups ?? []) {
      const one = named.get(folded(label)) ?? { label, meant: new Set() };
      named.set(folded(label), { label, meant: one.meant.add(row) });
    }
  return [...named].flatMap(([fold, { label, meant }]) => {
    const there = byLabel.get(fold);
    const inside = new Set((there?.people ?? []).map((id) => emailOf.get(id) ?? ''));
    const join = [...meant].filter((row) => !inside.has(key(row.email)));
    const leave = [...inside].flatMap((email) => {
      const row = rowOf.get(email);
      return row === undefined || meant.has(row) ? [] : [row];
    });
    if (there !== undefined && join.length + leave.length === 0) return [];
    return [
      {
        id: there?.id ?? null,
        label: there?.label ?? label,
        join: join.map(asMember),
        leave: leave.map(asMember),
      },
    ];
  });
}

const asMember = ({ email, name }: DirectoryRow): Member => ({ email: key(email), name });
