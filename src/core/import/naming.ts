import { fold } from './cell';
import { plural } from '../table/label';
import type { Column } from '../table/model';
import type { DetectedColumn } from './detection';
import { headingLabel } from './heading';
import { FREE_TEXT, KEY_WORDS, stemsOf } from './keys';

/** A column of a new table with what its sheet shows of it. */
export interface NamingColumn {
  readonly column: Column;
  readonly found: Pick<DetectedColumn, 'unique' | 'filled' | 'distinct'>;
}

const NAME = /^(name|title|label|bezeichnung|nom|nombre|nome|titel|titre)$/i;
const NAMED = /\b(name|title|bezeichnung|titel)\b/i;
/** Words beside "name" that do not make it the name of something else. */
const PLAIN_BESIDE = new Set(['name', 'title', 'full', 'display', 'common', 'short', 'long', 'of', 'the']);
const [GIVEN, FAMILY] = [
  /^(first|given) ?name|^vorname|^pr[eé]nom$/i,
  /^(last|family) ?name|^surname|^nachname/i,
];
/** Where several columns could name a record, these are asked last. */
const CONTACT: ReadonlySet<string> = new Set(['e-mail', 'phone']);

/**
 * The columns that a record of a table called `label` is shown by, as ids: its code and what it is called, as
 * far as there are such columns; two names of a person; an address or a number to reach somebody by only
 * where nothing else tells records apart.
 */
export function titleOf(label: string, columns: readonly NamingColumn[]): string[] {
  const texts = columns.filter(({ column }) => column.kind === 'text' && !isAside(column));
  const pair = [GIVEN, FAMILY].map((words) => texts.find(({ column }) => words.test(column.label)));
  const called = pair.every((one) => one !== undefined) ? pair : best(texts, (one) => nameScore(label, one));
  const told = columns.filter(({ found }) => found.unique);
  const code = told.find(({ column }) => KEY_WORDS.test(column.label) && !CONTACT.has(column.kind));
  const apart = called.some((one) => one?.found.unique === true) || code !== undefined;
  const reach = apart ? undefined : told.find(({ column }) => CONTACT.has(column.kind));
  const chosen = [code, ...called, reach].filter((one) => one !== undefined);
  const [first] = chosen.length > 0 ? chosen : [...told, ...mostDifferent(texts)];
  return [...new Set((chosen.length > 0 ? chosen : [first]).flatMap((one) => one?.column.id ?? []))];
}

const isAside = ({ label, personal }: Column): boolean =>
  FREE_TEXT.test(label) || (personal !== null && personal !== 'name');

/** None at all where nothing speaks for any. */
function best(columns: readonly NamingColumn[], score: (one: NamingColumn) => number): NamingColumn[] {
  const most = Math.max(0, ...columns.map(score));
  return most === 0 ? [] : columns.filter((one) => score(one) === most).slice(0, 1);
}

function nameScore(table: string, { column, found }: NamingColumn): number {
  const [mine, its] = [stemsOf(column.label), stemsOf(table)];
  const isThing = mine.length > 0 && mine.every((stem) => its.includes(stem));
  const isItsName =
    NAMED.test(column.label) && mine.every((stem) => its.includes(stem) || PLAIN_BESIDE.has(stem));
  if (NAME.test(column.label)) return 6;
  if (isItsName) return 5;
  if (KEY_WORDS.test(column.label)) return 0;
  if (isThing) return 4;
  if (column.personal === 'name') return 3;
  if (NAMED.test(column.label)) return 2;
  return found.unique ? 1 : 0;
}

const mostDifferent = (columns: readonly NamingColumn[]): NamingColumn[] =>
  columns
    .filter(({ found }) => found.distinct * 2 > found.filled)
    .sort((a, b) => b.found.distinct - a.found.distinct)
    .slice(0, 1);

/** What the records of a table are that is taken out of a sheet by the column `by`: "Customer name" and "Customer no" hold Customers. */
export function holdsOf(
  { name: by, personal }: Pick<DetectedColumn, 'name' | 'personal'>,
  others: readonly string[],
): string {
  const thing = thingIn(headingLabel(by));
  if (thing !== '' && !(personal === 'name' && /\b(by|von|par)$/i.test(thing))) return plural(capital(thing));
  if (personal === 'name') return 'People';
  const [first = ''] = headingLabel(others[0] ?? '').split(' ');
  const shared = others.length > 1 && others.every((one) => fold(headingLabel(one)).startsWith(fold(first)));
  return plural(shared && first !== '' ? capital(first) : headingLabel(by));
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** What a heading says of the thing itself, beside that this is its name or its number. */
const thingIn = (heading: string): string =>
  heading
    .replace(/^(name|title|code|number|id) of (the )?/i, '')
    .replace(TELLING_WORD, ' ')
    .replace(/[\s_.-]+/g, ' ')
    .trim();
const TELLING_WORD =
  /(^|[\s_.-])(name|title|code|id|key|ref|reference|no|nr|number|nummer|label)\.?(?=$|[\s_.-])|(?<=\p{Ll})(Id|ID|No|Nr|Name|Code)$/giu;
