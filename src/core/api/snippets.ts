import type { Operation } from './operations';

/** What is asked: an operation with what stands in its places. */
export interface Asking {
  readonly operation: Operation;
  /** By the name of the parameter; what is empty is left out. */
  readonly values: Readonly<Record<string, string>>;
  /** JSON, as it is typed. */
  readonly body: string;
}

/** A request as it goes out. */
export interface Outgoing {
  readonly url: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string | null;
}

/** What goes out, to a server at this address; without the token. */
export function outgoing(server: string, { operation, values, body }: Asking): Outgoing {
  const { parameters, path, body: sent } = operation;
  const given = parameters.filter(({ name }) => (values[name] ?? '') !== '');
  const placed = path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(values[name] ?? ''));
  const query = new URLSearchParams(
    given.filter((one) => one.in === 'query').map(({ name }) => [name, values[name] ?? '']),
  ).toString();
  return {
    url: `${server}${placed}${query === '' ? '' : `?${query}`}`,
    headers: {
      ...Object.fromEntries(
        given.filter((one) => one.in === 'header').map(({ name }) => [name, values[name] ?? '']),
      ),
      ...(sent !== null && { 'Content-Type': sent.type }),
    },
    body: sent === null ? null : body,
  };
}

const quoted = (text: string): string => `'${text.replaceAll("'", "'\\''")}'`;

/** The request for a shell; the token is in `$SLATE_TOKEN`. */
export function curlOf(server: string, asking: Asking): string {
  const { url, headers, body } = outgoing(server, asking);
  const { method } = asking.operation;
  return [
    `curl ${method === 'GET' ? '' : `-X ${method} `}${quoted(url)}`,
    `-H "Authorization: Bearer $SLATE_TOKEN"`,
    ...Object.entries(headers).map(([name, value]) => `-H ${quoted(`${name}: ${value}`)}`),
    ...(body === null ? [] : [`-d ${quoted(compact(body))}`]),
  ].join(' \\\n  ');
}

/** The request for a program in TypeScript; the token is in the environment. */
export function typescriptOf(server: string, asking: Asking): string {
  const { url, headers, body } = outgoing(server, asking);
  const { method } = asking.operation;
  const all = Object.entries(headers).map(
    ([name, value]) => `    ${JSON.stringify(name)}: ${JSON.stringify(value)},`,
  );
  return [
    `const answer = await fetch(${JSON.stringify(url)}, {`,
    ...(method === 'GET' ? [] : [`  method: '${method}',`]),
    '  headers: {',
    '    Authorization: `Bearer ${process.env.SLATE_TOKEN}`,',
    ...all,
    '  },',
    ...(body === null ? [] : [`  body: JSON.stringify(${compact(body)}),`]),
    '});',
    'if (!answer.ok) throw new Error((await answer.json()).title);',
    ...(method === 'DELETE' ? [] : ['console.log(await answer.json());']),
  ].join('\n');
}

/** What is no JSON yet is shown as it is typed. */
function compact(body: string): string {
  try {
    return JSON.stringify(JSON.parse(body));
  } catch {
    return body;
  }
}
