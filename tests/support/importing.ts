import type { ImportData } from '../../src/contract/imports';
import { noDecisions, type Decisions } from '../../src/core/import/decisions';
import { limits } from '../../src/core/limits';
import { beginImport, bringPiece, readBrought } from '../../src/use-cases/imports/begin-import';
import {
  acceptImport,
  decideImport,
  openImport,
  tryOutImport,
} from '../../src/use-cases/imports/decide-import';
import { keepImport, tryImport } from '../../src/use-cases/imports/keep-import';
import { readSheets } from '../../src/use-cases/imports/read-import';
import { as, must, newId } from './world';

/** Brings files as a browser does, and does the job the worker would do. */
export async function brought(files: Readonly<Record<string, string | Buffer>>): Promise<ImportData> {
  const id = newId();
  const contents = Object.entries(files).map(([name, content]) => ({ name, bytes: Buffer.from(content) }));
  await must(
    beginImport(as('Ines'), {
      id,
      files: contents.map(({ name, bytes }) => ({ name, bytes: bytes.length })),
    }),
  );
  for (const [file, { bytes }] of contents.entries()) {
    for (let piece = 0; piece * limits.pieceBytes < bytes.length; piece++)
      await must(
        bringPiece(as('Ines'), id, {
          file,
          piece,
          bytes: bytes.subarray(piece * limits.pieceBytes, (piece + 1) * limits.pieceBytes),
        }),
      );
  }
  await must(readBrought(as('Ines'), id));
  await readSheets(id);
  return must(openImport(as('Ines'), id));
}

const decided = async (data: ImportData, decisions: Partial<Decisions>): Promise<number> =>
  (
    await must(
      decideImport(as('Ines'), data.id, {
        version: data.version,
        decisions: { ...noDecisions, ...decisions },
      }),
    )
  ).version;

export async function kept(data: ImportData, decisions: Partial<Decisions> = {}): Promise<ImportData> {
  await must(acceptImport(as('Ines'), data.id, { version: await decided(data, decisions) }));
  await keepImport(data.id);
  return must(openImport(as('Ines'), data.id));
}

export async function triedOut(data: ImportData, decisions: Partial<Decisions> = {}): Promise<ImportData> {
  await must(tryOutImport(as('Ines'), data.id, { version: await decided(data, decisions) }));
  await tryImport(data.id);
  return must(openImport(as('Ines'), data.id));
}
