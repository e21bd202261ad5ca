import type { Problem } from '../../contract/answers-from-server';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { speak } from '../../core/wording/speak';
import { troubleOf } from './call';

/** The pictures a browser offers to choose from. */
export const PICTURES = 'image/jpeg,image/png,image/webp,image/gif';

/** Brings a picture to an address; or why it was not brought, in a sentence. */
export async function bringPicture(path: string, file: File): Promise<Result<null, string>> {
  if (file.size > limits.pictureBytes)
    return fail(speak`A picture may have ${limits.pictureBytes / 1024 / 1024} MB at most`);
  try {
    const response = await fetch(path, {
      method: 'PUT',
      headers: { 'content-type': 'application/octet-stream' },
      body: file,
    });
    return response.ok ? ok(null) : fail(troubleOf((await response.json()) as Problem));
  } catch {
    return fail(speak`The server cannot be reached; the picture was not brought`);
  }
}
