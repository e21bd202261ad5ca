import { useState, type FormEvent } from 'react';
import { call, troubleInFull, Unreachable } from '../kit/call';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const AWAY = spoken(() => speak`The server cannot be reached. Try again in a moment`);

/** Whoever forgot their password is mailed a link. What is said is the same whether there is somebody with that address or not. */
export default function ForgottenView({ mails }: { readonly mails: boolean }) {
  const [asked, setAsked] = useState<string | null>(null);
  return (
    <div className="mx-auto mt-14 max-w-md rounded-lg border border-slate-200 bg-white p-6 max-sm:mt-6">
      {asked !== null ? (
        <div role="status">
          <h1 className="mb-2 text-2xl">{speak`Look into your mailbox`}</h1>
          <p className="mb-3">{speakIn`If somebody here has the address ${(<strong className="break-words">{asked}</strong>)}, a link to choose a new password is on its way there. It is good once, for an hour.`}</p>
          <p className="quiet mb-4">{speak`Nothing there after a few minutes? Look among what was taken for advertising, try the address by which you were invited, or ask an administrator to make you a link.`}</p>
          <button
            type="button"
            className="button"
            onClick={() => setAsked(null)}
          >{speak`Try another address`}</button>
        </div>
      ) : mails ? (
        <Ask done={setAsked} />
      ) : (
        <>
          <h1 className="mb-2 text-2xl">{speak`Forgotten password`}</h1>
          <p>{speak`Ask an administrator of this workspace: they make you a link by which you choose another one.`}</p>
        </>
      )}
      <p className="mt-4">
        <a href="/sign-in" className="text-lichen underline">{speak`Back to sign in`}</a>
      </p>
    </div>
  );
}

function Ask({ done }: { done: (email: string) => void }) {
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const email = String(new FormData(event.currentTarget).get('email')).trim();
    setBusy(true);
    const result = await call('POST', '/api/welcome/forgotten', { email }).catch((error: unknown) =>
      error instanceof Unreachable ? error.message : AWAY(),
    );
    setBusy(false);
    if (typeof result === 'string') return setTrouble(result);
    if (result.ok) done(email);
    else setTrouble(troubleInFull(result.error));
  };
  return (
    <form method="post" onSubmit={(event) => void submit(event)}>
      <h1 className="mb-2 text-2xl">{speak`Forgotten password`}</h1>
      <p className="mb-4">{speak`We mail you a link by which you choose another one.`}</p>
      <label htmlFor="email" className="mb-1 block font-semibold">{speak`E-mail`}</label>
      <input
        id="email"
        name="email"
        type="email"
        autoComplete="username"
        required
        maxLength={254}
        className="box mb-4"
      />
      <div role="alert">{trouble !== '' && <p className="trouble mb-3">{trouble}</p>}</div>
      <button type="submit" disabled={busy} className="button button-dark">{speak`Mail me a link`}</button>
    </form>
  );
}
