import { useState } from 'react';
import { API } from '../../core/api/open-api';
import { outgoing, type Asking } from '../../core/api/snippets';
import { ask, type Answered } from './ask';

interface Props {
  readonly asking: Asking;
  readonly token: string;
  readonly change: (part: Partial<Pick<Asking, 'values' | 'body'>>) => void;
}

/** Sends the request in hand. It is no rehearsal: what it changes is changed. */
export function TryIt({ asking, token, change }: Props) {
  const { operation, values, body } = asking;
  const [answered, setAnswered] = useState<Answered | null>(null);
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const send = async () => {
    setBusy(true);
    setTrouble('');
    const { url, headers, body: sent } = outgoing(`${location.origin}${API}`, asking);
    const answer = await ask(url, operation.method, token, headers, sent).catch(() => null);
    setBusy(false);
    setAnswered(answer);
    if (answer === null) setTrouble('The server cannot be reached, or what it answered could not be read.');
  };
  const missing = operation.parameters.some(({ name, required }) => required && (values[name] ?? '') === '');
  return (
    <section className="margin-part" aria-labelledby="trying">
      <h2 id="trying" className="margin-title">
        Try it
      </h2>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        {operation.parameters.map(({ name, required }) => (
          <label key={name} className="mb-1.5 block text-[14px] font-semibold">
            {name}
            {required && <span className="quiet"> needed</span>}
            <input
              className="box mt-0.5 font-mono text-[13px] font-normal"
              value={values[name] ?? ''}
              onChange={(event) => change({ values: { ...values, [name]: event.target.value } })}
            />
          </label>
        ))}
        {operation.body !== null && (
          <label className="mb-1.5 block text-[14px] font-semibold">
            Body
            <textarea
              rows={Math.min(14, body.split('\n').length + 1)}
              spellCheck={false}
              className="box mt-0.5 font-mono text-[13px] font-normal"
              value={body}
              onChange={(event) => change({ body: event.target.value })}
            />
          </label>
        )}
        {operation.method !== 'GET' && (
          <p className="quiet mb-1.5">This is no rehearsal: what it changes is changed.</p>
        )}
        <button type="submit" className="button button-dark" disabled={busy || token === '' || missing}>
          Send it
        </button>
        {token === '' && <p className="quiet mt-1">It needs a token.</p>}
      </form>
      <div role="status">
        {trouble !== '' && <p className="trouble mt-2">{trouble}</p>}
        {answered !== null && <Answer answered={answered} />}
      </div>
    </section>
  );
}

function Answer({ answered: { status, statusText, headers, body } }: { answered: Answered }) {
  return (
    <div className="mt-3">
      <p className={`font-mono text-[13px] font-semibold ${status < 400 ? 'text-lichen-deep' : 'text-rust'}`}>
        {status} {statusText}
      </p>
      {headers.map(([name, value]) => (
        <p key={name} className="font-mono text-[12px] break-all text-slate-600">
          {name}: {value}
        </p>
      ))}
      {body !== null && (
        <pre
          aria-label="What was answered"
          className="mt-1 max-h-100 overflow-auto rounded border border-slate-200 bg-white p-2 font-mono text-[12px] break-words whitespace-pre-wrap"
        >
          {JSON.stringify(body, null, 2)}
        </pre>
      )}
    </div>
  );
}
