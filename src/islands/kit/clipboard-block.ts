/** A block of cells as spreadsheets put it on the clipboard: cells parted by tabs, lines by line ends, quoted where they hold either. */
export async function blockOf(text: string): Promise<string[][]> {
  const { default: papaparse } = await import('papaparse');
  return papaparse.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t' }).data;
}

/** The same from cells; at once, for a browser takes nothing later. */
export const textOf = (block: readonly (readonly string[])[]): string =>
  block
    .map((line) =>
      line.map((cell) => (/[\t\n\r"]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)).join('\t'),
    )
    .join('\n');
