import { useState, type FormEvent } from 'react';
import { call } from '../kit/call';
import { focused } from '../kit/focused';
import { notReached } from './not-reached';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly to: string;
  /** Leads back to the password; without it, by a link. */
  readonly again?: () => void;
}

/** The second step of signing in. */
export default function CodeView({ to, again }: Props) {
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    setBusy(true);
    const code = String(new FormData(event.currentTarget).get('code'));
    const result = await call('POST', '/api/sign-in/code', { code }).catch(notReached);
    if (result.ok) return location.assign(to);
    setBusy(false);
    setTrouble(result.error.title);
  };
  return (
    <form
      method="post"
      onSubmit={(event) => void submit(event)}
      className="mx-auto mt-14 max-w-md rounded-lg border border-slate-200 bg-white p-6 max-sm:mt-6"
    >
      <h1 className="mb-2 text-2xl">{speak`One more step`}</h1>
      <label htmlFor="code" className="mb-1 block font-semibold">{speak`Code`}</label>
      <input
        id="code"
        name="code"
        className={`box tabular mb-1 max-w-48 font-mono ${trouble === '' ? '' : 'wrong'}`}
        autoComplete="one-time-code"
        inputMode="text"
        maxLength={40}
        ref={focused}
        required
        aria-invalid={trouble !== ''}
        aria-describedby="code-about"
      />
      <p
        id="code-about"
        className="quiet mb-3"
      >{speak`The six figures your program shows now, or one of your spare codes`}</p>
      <div role="alert">{trouble !== '' && <p className="trouble mb-3">{trouble}</p>}</div>
      <button type="submit" disabled={busy} className="button button-dark">{speak`Sign in`}</button>
      {again === undefined ? (
        <a href="/sign-in" className="ml-4 text-lichen underline">{speak`Begin again`}</a>
      ) : (
        <button type="button" className="button-plain ml-3" onClick={again}>{speak`Begin again`}</button>
      )}
      <p className="quiet mt-4">{speak`Without your program and your spare codes, ask an administrator to take the codes off.`}</p>
    </form>
  );
}
