import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { call } from '../kit/call';
import { speak } from '../../core/wording/speak';

const TRIES = 4;
const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** Sends files to an import in pieces, each tried again when the connection is lost, then has them read. Gives the import's id. */
export async function bringFiles(
  files: readonly File[],
  told: (bytes: number) => void,
): Promise<Result<string, string>> {
  const id = crypto.randomUUID();
  const begun = await call('POST', '/api/imports', {
    id,
    files: files.map(({ name, size }) => ({ name: name.slice(0, limits.label), bytes: size })),
  });
  if (!begun.ok) return fail(begun.error.title);
  let sent = 0;
  for (const [file, content] of files.entries()) {
    for (let piece = 0; piece * limits.pieceBytes < content.size; piece++) {
      const bytes = content.slice(piece * limits.pieceBytes, (piece + 1) * limits.pieceBytes);
      const trouble = await brought(`/api/imports/${id}/files/${file}/${piece}`, bytes);
      if (trouble !== null) return fail(trouble);
      told((sent += bytes.size));
    }
  }
  const read = await call('POST', `/api/imports/${id}/read`, {});
  return read.ok ? ok(id) : fail(read.error.title);
}

async function brought(path: string, bytes: Blob): Promise<string | null> {
  for (let n = 1; ; n++) {
    try {
      const response = await fetch(path, {
        method: 'PUT',
        headers: { 'content-type': 'application/octet-stream' },
        body: bytes,
      });
      if (response.ok) return null;
      if (response.status < 500) return ((await response.json()) as { title: string }).title;
    } catch {
      // The connection was lost: this piece is sent again.
    }
    if (n === TRIES)
      return speak`The connection was lost while the files were sent. Nothing was made; choose them again`;
    await pause(500 * n * n);
  }
}
