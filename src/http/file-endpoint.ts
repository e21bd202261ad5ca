import { Readable } from 'node:stream';
import type { APIRoute } from 'astro';
import { isUuid } from '../core/kernel/ids';
import { forbidden, notFound, type Refusal } from '../core/kernel/refusal';
import type { Result } from '../core/kernel/result';
import type { Context } from '../use-cases/workspace/asking';
import type { OpenedFile } from '../use-cases/files/open-file';
import { contextOf, wholeOrCut } from './endpoint';
import { problem, thrown } from './problem';

/**
 * The door of what people have brought. Whatever is in it, a browser runs nothing of it: it is told the type
 * that the content showed and to believe nothing else, shows photos alone in place, and opens anything as a
 * stranger without scripts. What was seen may be kept, but is asked about each time.
 */
export const fileEndpoint =
  (
    open: (context: Context, id: string) => Promise<Result<OpenedFile, Refusal>>,
    openToAll?: (id: string) => Promise<Result<OpenedFile, Refusal>>,
  ): APIRoute =>
  async (api) => {
    try {
      const id = api.params['id'] ?? '';
      const context = contextOf(api);
      if (context === null && openToAll === undefined) return problem(forbidden('sign-in'));
      if (!isUuid(id)) return problem(notFound('file'));
      const result = context === null ? await openToAll?.(id) : await open(context, id);
      // What is not open to all is told to nobody who has not signed in, not even that it is there.
      if (result?.ok !== true)
        return problem(context === null ? forbidden('sign-in') : (result?.error ?? notFound('file')));
      const { name, type, size, inline, body } = result.value;
      const etag = `"${id}"`;
      const headers = { etag, 'cache-control': 'private, no-cache' };
      if (api.request.headers.get('if-none-match') === etag) {
        await body.return(undefined);
        return new Response(null, { status: 304, headers });
      }
      return new Response(Readable.toWeb(Readable.from(wholeOrCut(body, api))) as ReadableStream, {
        headers: {
          ...headers,
          'content-type': type.startsWith('text/') ? `${type}; charset=utf-8` : type,
          'content-length': String(size),
          'content-security-policy': "default-src 'none'; sandbox",
          'content-disposition': `${inline ? 'inline' : 'attachment'}; filename*=UTF-8''${encoded(name)}`,
        },
      });
    } catch (error) {
      return thrown(error, api.url.pathname);
    }
  };

/** As RFC 8187 writes a name: all that is not plain in percents. */
const encoded = (name: string): string =>
  encodeURIComponent(name.toWellFormed()).replace(
    /['()*]/g,
    (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`,
  );
