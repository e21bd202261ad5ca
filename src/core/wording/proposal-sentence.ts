import { counted, digits } from './numbers';
import { issue } from '../kernel/issue';
import type { DetectedColumn, DetectedKind, DetectedRelation } from '../import/detection';
import type { Merged, RefusedCell } from '../import/import';
import type { Proposal } from '../import/proposals';
import { unreachable } from '../kernel/result';
import type { PersonalData } from '../table/model';
import { issueSentence } from './issue-sentence';
import { speak, spoken } from './speak';

const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : speak`${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** What is proposed, and why, in a sentence. `made` is the label of the table it would make. */
export function proposalSentence(proposal: Proposal, made: string): string {
  switch (proposal.t) {
    case 'relation': {
      const { from, to, covered, missed, tolerant, alongWith, table } = proposal.relation;
      if (alongWith !== null)
        return speak`“${from.column}” says of ${to.sheet} what “${alongWith}” says already, so it is left out here`;
      const names = speak`“${from.column}” names records of ${table === null ? '' : speak`your table `}${to.sheet} by their ${to.column}`;
      if (covered + missed === 0) return speak`${names}, as you said`;
      const found =
        missed === 0
          ? covered === 1
            ? speak`its one value is found there`
            : speak`all ${digits(covered)} different values are found there`
          : speak`${digits(covered)} of ${counted(covered + missed, 'different value')} are found there`;
      const bent =
        tolerant === 0 ? '' : speak`, ${digits(tolerant)} once case, spaces and accents are left aside`;
      return `${names}: ${found}${bent}`;
    }
    case 'group': {
      const { by, columns, records, rows, exceptions } = proposal.group;
      const but = exceptions === 0 ? '' : speak`, save ${counted(exceptions, 'cell')}`;
      return speak`${listed([by, ...columns])} come again together in ${counted(rows, 'row')}${but}: ${made} gets a table of its own with ${counted(records, 'record')}`;
    }
    case 'numbered': {
      const { stems, times, rows } = proposal.numbered;
      return speak`${listed(stems.map(({ stem, columns }) => speak`${columns[0] ?? stem} to ${times}`))} are rows written side by side: they become ${counted(rows, 'row')} of ${made}`;
    }
    case 'totals': {
      const { row, text, sums } = proposal.totals;
      const why =
        sums === 0
          ? speak`looks like totals`
          : sums === 1
            ? speak`adds up a column above it`
            : speak`adds up the columns above it`;
      return speak`The last row, ${digits(row)}, ${why} (“${text}”), so it is left out`;
    }
    case 'words': {
      const words = proposal.words.map(({ text, count }) => `“${text}” (${digits(count)})`);
      return speak`In “${proposal.column}”, ${listed(words)} ${words.length === 1 ? speak`is` : speak`are`} taken as empty`;
    }
    case 'together':
      return speak`No two rows share ${listed(proposal.columns)}, so far`;
    default:
      return unreachable(proposal);
  }
}

/** Why a table gets no records of which only a name is known: `labels` are the columns they must have filled. */
export const needsMore = (table: string, labels: readonly string[]): string =>
  speak`for a record of ${table} must have ${andMore(labels, 3, labels.length)} as well`;

const andMore = (shown: readonly string[], most: number, of: number): string =>
  of > Math.min(shown.length, most)
    ? speak`${shown.slice(0, most).join(', ')} and ${digits(of - Math.min(shown.length, most))} more`
    : listed(shown);

/** What is not found, with its rows: the first of them, and how many more. */
export function missesSentence({ misses, missed }: Pick<DetectedRelation, 'misses' | 'missed'>): string {
  return speak`Not found: ${andMore(
    misses.map(({ row, text }) => speak`“${text}” in row ${digits(row)}`),
    5,
    missed,
  )}`;
}

/** What happens instead, when it is declined. */
export function declinedSentence(proposal: Proposal): string {
  switch (proposal.t) {
    case 'relation':
      return proposal.relation.alongWith === null
        ? speak`“${proposal.relation.from.column}” stays as it is written`
        : speak`“${proposal.relation.from.column}” is kept as a column of its own`;
    case 'group':
      return speak`${proposal.group.by} stays repeated in every row`;
    case 'numbered':
      return speak`The numbered columns stay side by side`;
    case 'words':
      return speak`They are kept as they are written, or refused where they do not fit`;
    case 'totals':
      return speak`It becomes a record like the others`;
    case 'together':
      return speak`That may be chance, so it is not enforced unless you say so`;
    default:
      return unreachable(proposal);
  }
}

export const kindWords = spoken((): Readonly<Record<DetectedKind, string>> => ({
  text: speak`text`,
  whole: speak`a whole number`,
  decimal: speak`a decimal number`,
  money: speak`money`,
  date: speak`a date`,
  'date-time': speak`a date with a time`,
  time: speak`a time of day`,
  'yes-no': speak`yes or no`,
  choice: speak`one of some choices`,
  'e-mail': speak`an e-mail address`,
  'web-address': speak`a web address`,
  phone: speak`a telephone number`,
}));

export const personalWords = spoken((): Readonly<Record<PersonalData, string>> => ({
  name: speak`names of people`,
  address: speak`addresses`,
  phone: speak`telephone numbers`,
  'e-mail': speak`e-mail addresses`,
  birth: speak`dates of birth`,
  bank: speak`account numbers`,
}));

/** Why a column is taken for what it is. */
export function evidenceSentences(column: DetectedColumn): string[] {
  const all = column.filled + column.blank;
  return [
    column.blank === 0
      ? speak`Filled in all ${counted(all, 'row')}`
      : speak`Filled in ${digits(column.filled)} of ${counted(all, 'row')}`,
    column.unique ? speak`No value comes twice` : counted(column.distinct, 'different value'),
    ...(column.keptAsText === null
      ? []
      : [
          {
            'leading-zeros': speak`Looks like numbers, but some begin with 0, which a number would lose`,
            'long-digits': speak`Digits of a code, not an amount`,
            mixed: speak`Numbers written in more than one way, so they are kept as they are`,
          }[column.keptAsText],
        ]),
    ...(column.choices === null
      ? []
      : [
          speak`The choices: ${few(
            column.choices.map(({ value, count }) => `${value} (${digits(count)})`),
            8,
          )}`,
          ...spellings(column.choices),
        ]),
  ];
}

const few = (words: readonly string[], most: number): string =>
  words.length <= most
    ? words.join(', ')
    : speak`${words.slice(0, most).join(', ')} and ${words.length - most} more`;

function spellings(choices: NonNullable<DetectedColumn['choices']>): string[] {
  const bent = choices.filter((one) => one.spellings.length > 0);
  return bent.length === 0
    ? []
    : [
        speak`Different spellings are taken together: ${bent
          .slice(0, 3)
          .map(({ value, spellings: others }) => `${value} (${others.slice(0, 3).join(', ')})`)
          .join('; ')}`,
      ];
}

/** What came of rows in a table that was there. */
export function mergedWords({ added, changed, same, leftOut }: Merged): string {
  return [
    speak`${digits(added)} new`,
    speak`${digits(changed)} changed`,
    ...(same > 0 ? [speak`${digits(same)} the same already`] : []),
    ...(leftOut > 0 ? [speak`${digits(leftOut)} left out`] : []),
  ].join(', ');
}

/** Why a row was refused. */
export function refusedSentence({ sheet, row, column, text, code, message }: RefusedCell): string {
  const where = row === 0 ? sheet : speak`${sheet}, row ${row}`;
  if (code === 'not-found-there')
    return speak`${where}: “${text}” of ${column} is not found among the records it should name`;
  if (code === 'twice')
    return speak`${where}: ${text === '' ? '' : speak`“${text}” comes twice; `}${column} must be different in every ${text === '' ? speak`record, and a value comes twice` : speak`row`}`;
  if (code === 'several-agree')
    return speak`${where}: several records there have “${text}” as their ${column}`;
  if (code === 'already-used') return speak`${where}: “${text}” is the ${column} of another record already`;
  return `${where}: ${text === '' ? '' : `“${text}”: `}${issueSentence(issue(code, [], { label: column, ...(message !== undefined && { message }) }))}`;
}
