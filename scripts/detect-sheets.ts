import { basename } from 'node:path';
import { detect } from '../src/core/import/detect';
import type { ColumnRef, Detection } from '../src/core/import/detection';
import { fileSentence } from '../src/core/wording/file-sentence';
import { RefusedFile } from '../src/files/refused-file';
import { profiled, withMisses } from '../src/files/sheets';

/**
 * Prints as JSON what import would propose for the given files: `{sheets, relations}`, or `{refused: [{code, message}]}` with exit code 1.
 * Rows and columns of a sheet are named as people see them; relations by `Sheet.Column`.
 */
const files = process.argv.slice(2).map((path) => ({ path, name: basename(path) }));
if (files.length === 0) {
  process.stderr.write('Say which files: npm run -s detect -- beds.csv orders.xlsx\n');
  process.exit(2);
}

try {
  const detection = await withMisses(detect(await profiled(files)), files);
  process.stdout.write(`${JSON.stringify(printed(detection), null, 2)}\n`);
} catch (error) {
  process.stdout.write(`${JSON.stringify({ refused: [refusal(error)] })}\n`);
  process.exitCode = 1;
}

function printed({ sheets, relations }: Detection): object {
  return {
    sheets: sheets.map(({ top: _top, ...sheet }) => ({
      ...sheet,
      columns: sheet.columns.map(({ choices, ...column }) => ({
        ...column,
        choices: choices?.map(({ value }) => value) ?? null,
        choiceCounts: choices,
      })),
    })),
    relations: relations.map(({ from, to, covered, missed, misses, tolerant, alongWith }) => ({
      from: named(from),
      to: named(to),
      covered,
      missed,
      misses,
      tolerant,
      alongWith,
    })),
  };
}

function named({ sheet, column }: ColumnRef): string {
  return `${sheet}.${column}`;
}

function refusal(error: unknown): object {
  if (error instanceof RefusedFile)
    return { code: error.fault, message: fileSentence(error.fault, error.facts) };
  if ((error as NodeJS.ErrnoException).code === 'ENOENT')
    return { code: 'missing', message: `There is no file ${(error as NodeJS.ErrnoException).path}` };
  throw error;
}
