import { isPhoto } from '../../core/form/file';
import { mayAdminister } from '../../core/access/rules';
import { issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import { forbidden, invalid, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { putLogo } from '../../data/system/workspace';
import { asPerson } from '../../data/transaction';
import { drawnForBand, typeOf } from '../../files/photos';
import type { Context } from './asking';

/** Shows a picture as the sign of the organisation, drawn anew and small; the one before is gone. */
export async function keepLogo(context: Context, bytes: Buffer): Promise<Result<{ logo: string }, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('workspace'));
  if (!isPhoto(await typeOf(bytes))) return fail(invalid(issue('not-a-photo', [])));
  // Drawing takes a while, so no connection is held meanwhile.
  const drawn = await drawnForBand(bytes);
  if (drawn === null) return fail(invalid(issue('file-broken', [])));
  const logo = newUuid();
  return asPerson({ person: context.person.id }, async (tx) => {
    await putLogo(tx, logo, drawn);
    return ok({ logo });
  });
}

export async function dropLogo(context: Context): Promise<Result<null, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('workspace'));
  return asPerson({ person: context.person.id }, async (tx) => {
    await putLogo(tx, null, null);
    return ok(null);
  });
}
