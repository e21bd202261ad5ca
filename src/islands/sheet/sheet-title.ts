import type { SheetData } from '../../contract/sheet-from-server';
import { newRecordTitle } from '../../core/wording/record-title';

/** "New accession", "Accession AC-2026-0412", or the title of the form where it has no word for its records. */
export function titleOf({ design, record, submission }: SheetData): string {
  const word = design.record ?? '';
  const number = record?.number ?? submission?.number ?? '';
  if (number !== '') return `${word === '' ? design.title : word} ${number}`;
  return word === '' ? design.title : newRecordTitle(word);
}

/** The page of the record. */
export const recordAddress = ({ tableKey, number }: NonNullable<SheetData['record']>): string =>
  `/tables/${tableKey}/${encodeURIComponent(number)}`;
