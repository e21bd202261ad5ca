import type { Facts } from '../kernel/issue';
import { speak } from './speak';

/** Why a file is not read, with what to do instead. */
export const fileFaults = [
  'unknown-format',
  'empty',
  'too-many-columns',
  'cell-too-long',
  'unpacks-too-large',
  'too-many-parts',
  'broken-workbook',
  'protected-workbook',
  'broken-package',
  'tables-there',
  'tables-missing',
  'package-alone',
] as const;
export type FileFault = (typeof fileFaults)[number];

export function fileSentence(fault: FileFault, facts: Facts): string {
  const at = facts['row'] === undefined ? '' : speak` in row ${facts['row']}`;
  switch (fault) {
    case 'unknown-format':
      return speak`This is neither CSV nor an XLSX workbook. Save it as one of them and choose it again`;
    case 'empty':
      return speak`The file is empty`;
    case 'too-many-columns':
      return speak`There are more than ${facts['most']} columns${at}. Is the sign between cells another one, or the sheet lying on its side?`;
    case 'cell-too-long':
      return speak`A cell is longer than ${facts['most']} characters${at}. Most likely a quotation mark is opened there and never closed`;
    case 'unpacks-too-large':
      return speak`The workbook unpacks to far more than any sheet needs, so it was not opened. Save the sheets as CSV instead`;
    case 'too-many-parts':
      return speak`The workbook has more than ${facts['most']} parts, so it was not opened. Save the sheets as CSV instead`;
    case 'broken-workbook':
      return speak`The workbook is damaged and cannot be read. Open it and save it again`;
    case 'broken-package':
      return speak`This Data Package is not as it was taken out, and cannot be read`;
    case 'tables-there':
      return speak`There are tables of these names already: ${facts['tables']}. A package is read into a workspace without them; rows come into tables there are from its CSV files`;
    case 'tables-missing':
      return speak`Tables of the package refer to others that are neither in it nor here: ${facts['tables']}`;
    case 'package-alone':
      return speak`A Data Package is read by itself; choose the other files in another import`;
    case 'protected-workbook':
      return speak`This is a workbook with a password or of the old format. Save it as XLSX without a password`;
  }
}
