import { useState } from 'react';
import type { Field, Parameter } from '../../core/api/operations';
import { curlOf, typescriptOf, type Asking } from '../../core/api/snippets';
import { Copy } from '../kit/icons';

/** What may stand where in a request, and the request as a shell or a program makes it. */
export function Details({ server, asking }: { server: string; asking: Asking }) {
  const { parameters, body } = asking.operation;
  return (
    <div className="border-t border-slate-200 bg-slate-50 py-3 pr-5 pl-[46px] max-sm:pl-4">
      {parameters.length > 0 && <Parameters parameters={parameters} />}
      {body !== null && <Fields type={body.type} fields={body.fields} />}
      <Snippets server={server} asking={asking} />
    </div>
  );
}

const row = 'grid grid-cols-[10rem_minmax(0,1fr)] gap-2 text-[14px] max-sm:grid-cols-1 max-sm:gap-0';

function Parameters({ parameters }: { parameters: readonly Parameter[] }) {
  return (
    <dl className="mb-3">
      {parameters.map(({ name, in: place, required, description }) => (
        <div key={name} className={row}>
          <dt className="font-mono text-[13px] font-semibold">{name}</dt>
          <dd>
            <span className="quiet">
              {place}
              {required ? ', needed' : ''}
            </span>{' '}
            <Described words={description} />
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** What stands between backticks is typed as it stands. */
const Described = ({ words }: { words: string }) =>
  words.split('`').map((part, i) =>
    i % 2 === 0 ? (
      part
    ) : (
      <code key={i} className="font-mono text-[13px]">
        {part}
      </code>
    ),
  );

function Fields({ type, fields }: { type: string; fields: readonly Field[] }) {
  return (
    <>
      <p className="mb-1 text-[14px]">
        What is sent is <span className="font-mono text-[13px]">{type}</span>:
      </p>
      <dl className="mb-3">
        {fields.map(({ key, title, kind, required }) => (
          <div key={key} className={row}>
            <dt className="font-mono text-[13px] font-semibold break-words">{key}</dt>
            <dd>
              <span className="quiet">
                {kind}
                {required ? ', needed' : ''}
              </span>{' '}
              {title}
            </dd>
          </div>
        ))}
      </dl>
    </>
  );
}

const ways = { curl: 'curl', typescript: 'TypeScript' } as const;

function Snippets({ server, asking }: { server: string; asking: Asking }) {
  const [way, setWay] = useState<keyof typeof ways>('curl');
  const [copied, setCopied] = useState(false);
  const text = way === 'curl' ? curlOf(server, asking) : typescriptOf(server, asking);
  return (
    <>
      <div className="mb-1 flex flex-wrap items-center gap-2">
        {(Object.keys(ways) as (keyof typeof ways)[]).map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={way === one}
            className={`button-plain ${way === one ? 'underline' : ''}`}
            onClick={() => {
              setWay(one);
              setCopied(false);
            }}
          >
            {ways[one]}
          </button>
        ))}
        <button
          type="button"
          className="button-plain ml-auto"
          onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}
        >
          <Copy size={14} aria-hidden />
          {copied ? 'Copied' : 'Copy'}
        </button>
      </div>
      <pre
        aria-label="The request"
        className="rounded border border-slate-200 bg-white p-2 font-mono text-[13px] break-words whitespace-pre-wrap"
      >
        {text}
      </pre>
    </>
  );
}
