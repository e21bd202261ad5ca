import { columnPath } from './decisions';
import type { DetectedRelation, DetectedSheet, Detection, NumberedColumns, RepeatedGroup } from './detection';

/** Something to accept or decline; the sentence is made in `wording/`. */
export type Proposal =
  | { readonly t: 'relation'; readonly id: string; readonly sheet: string; readonly relation: DetectedRelation }
  | { readonly t: 'group'; readonly id: string; readonly sheet: string; readonly group: RepeatedGroup }
  | { readonly t: 'numbered'; readonly id: string; readonly sheet: string; readonly numbered: NumberedColumns };

export const relationId = ({ from }: Pick<DetectedRelation, 'from'>): string => `relation:${columnPath(from.sheet, from.column)}`;
export const groupId = (sheet: string, { by }: Pick<RepeatedGroup, 'by'>): string => `group:${columnPath(sheet, by)}`;
export const numberedId = (sheet: string, { stems }: Pick<NumberedColumns, 'stems'>): string => `numbered:${columnPath(sheet, stems[0]?.columns[0] ?? '')}`;

/** The proposals of one sheet in the order of its columns: relations first, for they are the surest. */
export function proposalsOf(detection: Detection, sheet: DetectedSheet): Proposal[] {
  return [
    ...detection.relations.filter(({ from }) => from.sheet === sheet.name).map((relation): Proposal => ({ t: 'relation', id: relationId(relation), sheet: sheet.name, relation })),
    ...sheet.repeatedGroups.map((group): Proposal => ({ t: 'group', id: groupId(sheet.name, group), sheet: sheet.name, group })),
    ...sheet.numberedColumns.map((numbered): Proposal => ({ t: 'numbered', id: numberedId(sheet.name, numbered), sheet: sheet.name, numbered })),
  ];
}
