import { mayAdminister } from '../../core/access/rules';
import { issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { samePlace, type SourceAddress } from '../../core/link/source';
import { dropSourceServer, moveSourceServer } from '../../data/runtime/links/link-tables';
import { sealed } from '../../data/secret';
import { deleteSource, insertSource, linksOf, readSource, updateSource } from '../../data/system/links';
import { readDirectory } from '../../data/system/directory';
import { asOwner } from '../../data/transaction';
import { reachable } from '../../outside/reach';
import { speak } from '../../core/wording/speak';
import type { Context } from '../workspace/asking';

interface SourceInput {
  readonly version: number;
  readonly label: string;
  readonly address: SourceAddress;
  /** Null leaves the one that is kept. */
  readonly secret: string | null;
}

/**
 * Keeps where a source is and its secret, which is encrypted and never given out again. A secret is not sent
 * to another place than it was given for.
 */
export async function keepSource(
  context: Context,
  id: string,
  input: SourceInput,
): Promise<Result<{ version: number }, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('sources'));
  const wrong = addressIssue(input.address);
  if (wrong !== null) return fail(invalid(wrong));
  const host = hostOf(input.address);
  const found = await reachable(host);
  if (found === 'inside')
    return fail(
      invalid(issue('address-inside', ['address', input.address.t === 'database' ? 'host' : 'url'])),
    );
  // As the owner role, for what reaches the other database moves with the address, in the same transaction.
  return asOwner({ person: context.person.id }, async (tx) => {
    const row = await readSource(tx, id, true);
    const { label, address } = input;
    if ((row?.version ?? 0) !== input.version) return fail(stale('source-changed'));
    const keeps = row !== null && input.secret === null && samePlace(row.address, address);
    const secret =
      input.secret !== null
        ? input.secret === ''
          ? null
          : sealed(input.secret, id)
        : keeps
          ? row.secret
          : null;
    if (secret === null && (address.t === 'database' || (address.header !== '' && row?.secret !== null)))
      return fail(invalid(issue('secret-missing', ['secret'])));
    if (row === null)
      return (await insertSource(tx, { id, label, address, secret }))
        ? ok({ version: 1 })
        : fail(stale('source-changed'));
    if (row.address.t !== address.t) return fail(invalid(issue('malformed', ['address', 't'])));
    await updateSource(tx, id, { label, address, secret });
    await moveSourceServer(tx, id, found?.address ?? null);
    return ok({ version: row.version + 1 });
  });
}

const hostOf = (address: SourceAddress): string =>
  address.t === 'database' ? address.host : new URL(address.url).hostname;

function addressIssue(address: SourceAddress): ReturnType<typeof issue> | null {
  if (address.t === 'database') return null;
  const url = URL.canParse(address.url) ? new URL(address.url) : null;
  const fits =
    url !== null &&
    (url.protocol === 'http:' || url.protocol === 'https:') &&
    url.username === '' &&
    url.password === '';
  return fits ? null : issue('address-invalid', ['address', 'url']);
}

/** A source that no table is linked to can be removed, and its secret with it. */
export async function removeSource(context: Context, id: string): Promise<Result<null, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('sources'));
  return asOwner({ person: context.person.id }, async (tx, catalogue) => {
    if ((await readSource(tx, id, true)) === null) return fail(notFound('source'));
    const links = await linksOf(tx, id);
    const { tables } = catalogue;
    const used = [
      ...links.map(({ tableId }) => tables.get(tableId)?.label ?? ''),
      ...((await readDirectory(tx))?.sourceId === id ? [speak`the list of people`] : []),
    ];
    if (used.length > 0) return fail(invalid(issue('source-used', [], { tables: used.join(', ') })));
    await dropSourceServer(tx, id);
    await deleteSource(tx, id);
    return ok(null);
  });
}
