import type { LeftBehind } from '../link/carry-column';
import type { Following } from '../link/follow';
import { refreshChoices, type Freshness, type Refreshed, type RefreshEvery } from '../link/link';
import type { notLinked } from '../link/plan-link';
import type { SourceFault } from '../link/source';
import { unreachable } from '../kernel/result';
import { speak, spoken } from './speak';

/** What stays behind of a table when it is linked, and what that means. */
export function leftBehindSentence({ column, why, detail }: LeftBehind): string {
  const name = `“${column ?? speak`the table`}”`;
  switch (why) {
    case 'no-right':
      return speak`${name} is left out: the user of this source may not read it`;
    case 'many-values':
      return speak`${name} is left out: it holds a list of values${detail === '' ? '' : ` (${detail})`}`;
    case 'structure':
      return speak`${name} is left out: it holds ${detail}, which is no single value`;
    case 'bytes':
      return speak`${name} is left out: it holds files or other bytes`;
    case 'span':
      return speak`${name} is left out: spans such as ${detail} have no kind here`;
    case 'place':
      return speak`${name} is left out: it holds places or shapes (${detail})`;
    case 'search':
      return speak`${name} is left out: it is made for searching there (${detail})`;
    case 'other-type':
      return speak`${name} is left out: its type ${detail} is not known here`;
    case 'rounded':
      return `${name} is kept rounded here: ${detail} may hold more decimals than a column here`;
    case 'large-numbers':
      return speak`${name}: a number of more than 15 digits is left empty here`;
    case 'domain-rule':
      return speak`${name}: the rule of ${detail} goes on holding there, and is not known here`;
    case 'choice-labels':
      return speak`${name} is a text here: its values are too many or too long for a list of choices`;
    case 'reference-elsewhere':
      return speak`${name} refers to ${detail}, which is not linked, so it is shown as it is written there`;
    case 'reference-several':
      return speak`${name} refer together to ${detail}: they are shown as they are written there`;
    case 'rules':
      return speak`Rules that go on holding there, and are not known here: ${detail}`;
    case 'filled-there':
      return speak`${name} fills itself there (${detail}): it cannot be given from here when a record is added`;
    default:
      return unreachable(why);
  }
}

export const notLinkedSentence = spoken(
  (): Readonly<Record<NonNullable<ReturnType<typeof notLinked>>, string>> => ({
    'no-key': speak`It cannot be linked: nothing tells its records apart. It needs a primary key, or a column that is unique and always filled`,
    'key-not-carried': speak`It cannot be linked: what tells its records apart cannot be carried over`,
    'too-many-columns': speak`It cannot be linked: it has more columns than a table here may have`,
  }),
);

const quoted = (columns: readonly { readonly label: string }[]): string =>
  columns.map(({ label }) => `“${label}”`).join(', ');

/** What has become of a linked table at its source, and what is made of it here: a sentence each. */
export function followingSentences(
  { gained, lost, choices, differs, rights, keyLost, mapping }: Following,
  source: string,
): string[] {
  return [
    ...(keyLost ? [speak`What told its records apart has changed: end the link, and link it again`] : []),
    ...(gained.length === 0
      ? []
      : [
          speak`${quoted(gained)} ${gained.length === 1 ? speak`is` : speak`are`} there now, and not here yet`,
        ]),
    ...(lost.length === 0
      ? []
      : [
          speak`${quoted(lost)} ${lost.length === 1 ? speak`is not there any more: its` : speak`are not there any more: their`} last values stay here`,
        ]),
    ...choices.map(
      ({ column, labels }) =>
        speak`“${column.label}” may be ${labels.map((label) => `“${label}”`).join(', ')} as well`,
    ),
    ...(differs.length === 0
      ? []
      : [
          speak`${quoted(differs)} ${differs.length === 1 ? speak`holds` : speak`hold`} something else there now, of another kind or with more decimals, which is not followed`,
        ]),
    ...(rights
      ? [
          speak`What may be done is another now: ${linkedRights({ source, adds: mapping.adds, changes: mapping.changes })}`,
        ]
      : []),
  ];
}

/** Why a source could not be read, and what to do. */
export function sourceFaultSentence({ code, facts }: SourceFault): string {
  switch (code) {
    case 'inside':
      return speak`it is on this machine or its own network, and whoever runs the machine has not named it as a source`;
    case 'no-answer':
      return speak`It does not answer`;
    case 'sign-in-refused':
      return speak`It refuses the user or the secret; give them again`;
    case 'not-there':
      return speak`What is linked is not there any more, or may not be read: ${String(facts['what'] ?? speak`the address`)}`;
    case 'answer-wrong':
      return speak`It answers with an error (${String(facts['status'] ?? 'unknown')})`;
    case 'too-large':
      return speak`It answers with more than ${String(facts['most'] ?? speak`can be read`)} MB, the most that is read`;
    case 'no-json':
      return speak`What it answers is not JSON`;
    case 'no-list':
      return speak`There is no list of entries in what it answers`;
    case 'key-missing':
      return speak`${String(facts['rows'] ?? speak`Some`)} of its entries have nothing to be known by, or share it`;
    case 'columns-gone':
      return speak`It no longer has ${String(facts['columns'] ?? speak`some of its columns`)}`;
    case 'values-unfit':
      return speak`A value there is not what it was when it was linked${facts['column'] === undefined ? '' : ` (${String(facts['column'])})`}`;
    case 'secret-lost':
      return speak`Its secret cannot be read any more, because the key of this workspace changed; give it again`;
    case 'not-possible-here':
      return speak`This database cannot reach others: its administrator must install the extension postgres_fdw`;
    case 'fault':
      return speak`Something went wrong (reference ${String(facts['reference'] ?? 'none')})`;
    default:
      return unreachable(code);
  }
}

const everyWords = spoken((): Readonly<Record<RefreshEvery, string>> => ({
  1: speak`every minute`,
  5: speak`every 5 minutes`,
  15: speak`every 15 minutes`,
  60: speak`every hour`,
  1440: speak`once a day`,
}));
export const everyChoices = spoken(() =>
  refreshChoices.map((every) => ({ value: every, label: everyWords()[every] })),
);

/** What may be done with the records of a linked table, and where it goes. */
export function linkedRights({
  source,
  adds,
  changes,
}: Pick<Freshness, 'source' | 'adds' | 'changes'>): string {
  if (!adds && !changes)
    return speak`Its records are looked at here and kept in ${source}; they are not changed from here`;
  const verbs =
    adds && changes
      ? speak`added and changed`
      : adds
        ? speak`added, but not changed`
        : speak`changed, but not added`;
  return speak`Records may be ${verbs} from here; they are kept in ${source} in the same moment`;
}

/** What the last refresh brought: "2 added, 1 changed, 1 gone". */
export function refreshedSentence({ added, changed, gone, misfits }: Refreshed): string {
  const parts = [
    added === 0 ? '' : speak`${added} added`,
    changed === 0 ? '' : speak`${changed} changed`,
    gone === 0 ? '' : speak`${gone} gone`,
  ].filter((part) => part !== '');
  const unfit =
    misfits === 0
      ? ''
      : speak`; ${misfits} ${misfits === 1 ? speak`value that does not fit is` : speak`values that do not fit are`} left empty`;
  return `${parts.length === 0 ? speak`nothing was different` : parts.join(', ')}${unfit}`;
}
