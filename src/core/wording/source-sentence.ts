import type { LeftBehind } from '../link/carry-column';
import type { Following } from '../link/follow';
import { refreshChoices, type Freshness, type Refreshed, type RefreshEvery } from '../link/link';
import type { notLinked } from '../link/plan-link';
import type { SourceFault } from '../link/source';
import { unreachable } from '../kernel/result';

/** What stays behind of a table when it is linked, and what that means. */
export function leftBehindSentence({ column, why, detail }: LeftBehind): string {
  const name = `“${column ?? 'the table'}”`;
  switch (why) {
    case 'no-right':
      return `${name} is left out: the user of this source may not read it`;
    case 'many-values':
      return `${name} is left out: it holds a list of values${detail === '' ? '' : ` (${detail})`}`;
    case 'structure':
      return `${name} is left out: it holds ${detail}, which is no single value`;
    case 'bytes':
      return `${name} is left out: it holds files or other bytes`;
    case 'span':
      return `${name} is left out: spans such as ${detail} have no kind here`;
    case 'place':
      return `${name} is left out: it holds places or shapes (${detail})`;
    case 'search':
      return `${name} is left out: it is made for searching there (${detail})`;
    case 'other-type':
      return `${name} is left out: its type ${detail} is not known here`;
    case 'rounded':
      return `${name} is kept rounded here: ${detail} may hold more decimals than a column here`;
    case 'large-numbers':
      return `${name}: a number of more than 15 digits is left empty here`;
    case 'domain-rule':
      return `${name}: the rule of ${detail} goes on holding there, and is not known here`;
    case 'choice-labels':
      return `${name} is a text here: its values are too many or too long for a list of choices`;
    case 'reference-elsewhere':
      return `${name} refers to ${detail}, which is not linked, so it is shown as it is written there`;
    case 'reference-several':
      return `${name} refer together to ${detail}: they are shown as they are written there`;
    case 'rules':
      return `Rules that go on holding there, and are not known here: ${detail}`;
    case 'filled-there':
      return `${name} fills itself there (${detail}): it cannot be given from here when a record is added`;
    default:
      return unreachable(why);
  }
}

export const notLinkedSentence: Readonly<Record<NonNullable<ReturnType<typeof notLinked>>, string>> = {
  'no-key':
    'It cannot be linked: nothing tells its records apart. It needs a primary key, or a column that is unique and always filled',
  'key-not-carried': 'It cannot be linked: what tells its records apart cannot be carried over',
  'too-many-columns': 'It cannot be linked: it has more columns than a table here may have',
};

const quoted = (columns: readonly { readonly label: string }[]): string =>
  columns.map(({ label }) => `“${label}”`).join(', ');

/** What has become of a linked table at its source, and what is made of it here: a sentence each. */
export function followingSentences(
  { gained, lost, choices, differs, rights, keyLost, mapping }: Following,
  source: string,
): string[] {
  return [
    ...(keyLost ? ['What told its records apart has changed: end the link, and link it again'] : []),
    ...(gained.length === 0
      ? []
      : [`${quoted(gained)} ${gained.length === 1 ? 'is' : 'are'} there now, and not here yet`]),
    ...(lost.length === 0
      ? []
      : [
          `${quoted(lost)} ${lost.length === 1 ? 'is not there any more: its' : 'are not there any more: their'} last values stay here`,
        ]),
    ...choices.map(
      ({ column, labels }) =>
        `“${column.label}” may be ${labels.map((label) => `“${label}”`).join(', ')} as well`,
    ),
    ...(differs.length === 0
      ? []
      : [
          `${quoted(differs)} ${differs.length === 1 ? 'holds' : 'hold'} something else there now, of another kind or with more decimals, which is not followed`,
        ]),
    ...(rights
      ? [
          `What may be done is another now: ${linkedRights({ source, adds: mapping.adds, changes: mapping.changes })}`,
        ]
      : []),
  ];
}

/** Why a source could not be read, and what to do. */
export function sourceFaultSentence({ code, facts }: SourceFault): string {
  switch (code) {
    case 'inside':
      return 'it is on this machine or its own network, and whoever runs the machine has not named it as a source';
    case 'no-answer':
      return 'It does not answer';
    case 'sign-in-refused':
      return 'It refuses the user or the secret; give them again';
    case 'not-there':
      return `What is linked is not there any more, or may not be read: ${String(facts['what'] ?? 'the address')}`;
    case 'answer-wrong':
      return `It answers with an error (${String(facts['status'] ?? 'unknown')})`;
    case 'too-large':
      return `It answers with more than ${String(facts['most'] ?? 'can be read')} MB, the most that is read`;
    case 'no-json':
      return 'What it answers is not JSON';
    case 'no-list':
      return 'There is no list of entries in what it answers';
    case 'key-missing':
      return `${String(facts['rows'] ?? 'Some')} of its entries have nothing to be known by, or share it`;
    case 'columns-gone':
      return `It no longer has ${String(facts['columns'] ?? 'some of its columns')}`;
    case 'values-unfit':
      return `A value there is not what it was when it was linked${facts['column'] === undefined ? '' : ` (${String(facts['column'])})`}`;
    case 'secret-lost':
      return 'Its secret cannot be read any more, because the key of this workspace changed; give it again';
    case 'not-possible-here':
      return 'This database cannot reach others: its administrator must install the extension postgres_fdw';
    case 'fault':
      return `Something went wrong (reference ${String(facts['reference'] ?? 'none')})`;
    default:
      return unreachable(code);
  }
}

const everyWords: Readonly<Record<RefreshEvery, string>> = {
  1: 'every minute',
  5: 'every 5 minutes',
  15: 'every 15 minutes',
  60: 'every hour',
  1440: 'once a day',
};
export const everyChoices = refreshChoices.map((every) => ({ value: every, label: everyWords[every] }));

/** What may be done with the records of a linked table, and where it goes. */
export function linkedRights({
  source,
  adds,
  changes,
}: Pick<Freshness, 'source' | 'adds' | 'changes'>): string {
  if (!adds && !changes)
    return `Its records are looked at here and kept in ${source}; they are not changed from here`;
  const verbs =
    adds && changes ? 'added and changed' : adds ? 'added, but not changed' : 'changed, but not added';
  return `Records may be ${verbs} from here; they are kept in ${source} in the same moment`;
}

/** What the last refresh brought: "2 added, 1 changed, 1 gone". */
export function refreshedSentence({ added, changed, gone, misfits }: Refreshed): string {
  const parts = [
    [added, 'added'],
    [changed, 'changed'],
    [gone, 'gone'],
  ].flatMap(([count, verb]) => (count === 0 ? [] : [`${count} ${verb}`]));
  const unfit =
    misfits === 0
      ? ''
      : `; ${misfits} ${misfits === 1 ? 'value that does not fit is' : 'values that do not fit are'} left empty`;
  return `${parts.length === 0 ? 'nothing was different' : parts.join(', ')}${unfit}`;
}
