import type { Facts } from '../kernel/issue';

/** Why a file is not read, with what to do instead. */
export const fileFaults = ['unknown-format', 'empty', 'too-many-columns', 'cell-too-long', 'unpacks-too-large', 'too-many-parts', 'broken-workbook', 'protected-workbook'] as const;
export type FileFault = (typeof fileFaults)[number];

export function fileSentence(fault: FileFault, facts: Facts): string {
  const at = facts['row'] === undefined ? '' : ` in row ${facts['row']}`;
  switch (fault) {
    case 'unknown-format': return 'This is neither CSV nor an XLSX workbook. Save it as one of them and choose it again';
    case 'empty': return 'The file is empty';
    case 'too-many-columns': return `There are more than ${facts['most']} columns${at}. Is the sign between cells another one, or the sheet lying on its side?`;
    case 'cell-too-long': return `A cell is longer than ${facts['most']} characters${at}. Most likely a quotation mark is opened there and never closed`;
    case 'unpacks-too-large': return 'The workbook unpacks to far more than any sheet needs, so it was not opened. Save the sheets as CSV instead';
    case 'too-many-parts': return `The workbook has more than ${facts['most']} parts, so it was not opened. Save the sheets as CSV instead`;
    case 'broken-workbook': return 'The workbook is damaged and cannot be read. Open it and save it anew';
    case 'protected-workbook': return 'This is a workbook with a password or of the old format. Save it as XLSX without a password';
  }
}
