import { columnPath, noDecisions, type Decisions } from './decisions';
import type {
  DetectedRelation,
  DetectedSheet,
  Detection,
  EmptyWords,
  NumberedColumns,
  RepeatedGroup,
  TotalsRow,
} from './detection';
import type { RowSpan } from './row-span';
import { relationId, relationsOf } from './references';

/** Something to accept or decline; the sentence is made in `wording/`. */
export type Proposal =
  | {
      readonly t: 'relation';
      readonly id: string;
      readonly sheet: string;
      readonly relation: DetectedRelation;
    }
  | { readonly t: 'group'; readonly id: string; readonly sheet: string; readonly group: RepeatedGroup }
  | {
      readonly t: 'numbered';
      readonly id: string;
      readonly sheet: string;
      readonly numbered: NumberedColumns;
    }
  | {
      readonly t: 'totals';
      readonly id: string;
      readonly sheet: string;
      readonly totals: TotalsRow;
    }
  /** Words such as `n/a` in one column: where they would not fit they are taken for nothing, elsewhere only when somebody says so. */
  | {
      readonly t: 'words';
      readonly id: string;
      readonly sheet: string;
      readonly column: string;
      readonly words: EmptyWords['words'];
    }
  /** Columns that tell every row from every other. That may be chance, so nothing comes of it unless somebody says that it must stay so. */
  | {
      readonly t: 'together';
      readonly id: string;
      readonly sheet: string;
      readonly columns: readonly string[];
    };

export const groupId = (sheet: string, { by }: Pick<RepeatedGroup, 'by'>): string =>
  `group:${columnPath(sheet, by)}`;
export const numberedId = (sheet: string, { stems }: Pick<NumberedColumns, 'stems'>): string =>
  `numbered:${columnPath(sheet, stems[0]?.columns[0] ?? '')}`;

export const totalsId = (sheet: string): string => `totals:${sheet}`;

/** Which rows of a sheet are records, as it was found or decided. */
export const spanOf = (
  { name, headerRow, totals }: DetectedSheet,
  decisions: Pick<Decisions, 'declined'>,
): RowSpan => ({
  after: headerRow ?? 0,
  before: totals && !decisions.declined.includes(totalsId(name)) ? totals.row : Infinity,
});

export const togetherId = (sheet: string, columns: readonly string[]): string =>
  `together:${columnPath(sheet, columns.join('+'))}`;

/**
 * Whether it is carried out, save for words, of which the plan knows: what is likely unless it is declined,
 * what may be chance once it is accepted.
 */
export const isAccepted = (
  { declined, accepted = [] }: Decisions,
  { t, id }: Pick<Proposal, 't' | 'id'>,
): boolean => (t === 'together' ? accepted.includes(id) : !declined.includes(id));

export function answered(decisions: Decisions, proposal: Proposal, accept: boolean): Decisions {
  const { id, t } = proposal;
  if (t === 'words') {
    const path = columnPath(proposal.sheet, proposal.column);
    const decided = { ...decisions.columns[path], wordsAreEmpty: accept };
    return { ...decisions, columns: { ...decisions.columns, [path]: decided } };
  }
  if (t === 'together')
    return {
      ...decisions,
      accepted: [...(decisions.accepted ?? []).filter((one) => one !== id), ...(accept ? [id] : [])],
    };
  return {
    ...decisions,
    declined: [...decisions.declined.filter((one) => one !== id), ...(accept ? [] : [id])],
  };
}

/** The proposals of one sheet in the order of its columns: relations first, for they are the surest. */
export function proposalsOf(
  detection: Detection,
  sheet: DetectedSheet,
  decisions: Decisions = noDecisions,
): Proposal[] {
  const { totals } = sheet;
  return [
    ...(totals ? [{ t: 'totals' as const, id: totalsId(sheet.name), sheet: sheet.name, totals }] : []),
    ...relationsOf(detection, decisions)
      .filter(({ from }) => from.sheet === sheet.name)
      .map((relation): Proposal => ({
        t: 'relation',
        id: relationId(relation),
        sheet: sheet.name,
        relation,
      })),
    ...sheet.repeatedGroups.map((group): Proposal => ({
      t: 'group',
      id: groupId(sheet.name, group),
      sheet: sheet.name,
      group,
    })),
    ...sheet.numberedColumns.map((numbered): Proposal => ({
      t: 'numbered',
      id: numberedId(sheet.name, numbered),
      sheet: sheet.name,
      numbered,
    })),
    ...sheet.columns.flatMap(({ name, emptyWords }): Proposal[] =>
      emptyWords === undefined
        ? []
        : [
            {
              t: 'words',
              id: `words:${columnPath(sheet.name, name)}`,
              sheet: sheet.name,
              column: name,
              words: emptyWords.words,
            },
          ],
    ),
    ...sheet.keys
      .filter((columns) => columns.length > 1)
      .map((columns): Proposal => ({
        t: 'together',
        id: togetherId(sheet.name, columns),
        sheet: sheet.name,
        columns,
      })),
  ];
}
