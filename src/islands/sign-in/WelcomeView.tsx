import { useEffect, useState, type FormEvent } from 'react';
import type { WelcomeData } from '../../contract/people';
import type { Entered } from '../../contract/sign-in';
import { passwordLength } from '../../core/access/password';
import { call } from '../kit/call';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

type Found =
  | { readonly t: 'looking' }
  | { readonly t: 'refused'; readonly words: string }
  | { readonly t: 'for'; readonly who: WelcomeData };

/** The link stands after the sign in the address, where no server and no log sees it. */
const tokenHere = (): string => location.hash.slice(1);

/** Somebody who was invited chooses a password, and is in. */
export default function WelcomeView() {
  const [found, setFound] = useState<Found>({ t: 'looking' });
  useEffect(() => {
    call<WelcomeData>('POST', '/api/welcome', { token: tokenHere() })
      .then((result) =>
        setFound(
          result.ok
            ? { t: 'for', who: result.value }
            : {
                t: 'refused',
                words:
                  result.error.status === 404
                    ? result.error.title
                    : speak`This link is not whole. Copy all of it, or ask whoever sent it for another`,
              },
        ),
      )
      .catch(() =>
        setFound({ t: 'refused', words: speak`The server cannot be reached. Try again in a moment` }),
      );
  }, []);
  return (
    <div className="mx-auto mt-14 max-w-md rounded-lg border border-slate-200 bg-white p-6 max-sm:mt-6">
      {found.t === 'looking' && <p className="quiet">{speak`Looking up your link…`}</p>}
      {found.t === 'refused' && (
        <>
          <h1 className="mb-2 text-2xl">{speak`This link does not work`}</h1>
          <p role="alert">{found.words}.</p>
          <p className="mt-3">
            {speakIn`${(<a href="/sign-in" className="text-lichen underline">{speak`Sign in`}</a>)} if you have chosen a password before, or ask for ${(<a href="/forgotten" className="text-lichen underline">{speak`a new password`}</a>)}`}
            .
          </p>
        </>
      )}
      {found.t === 'for' && <ChoosePassword {...found.who} />}
    </div>
  );
}

function ChoosePassword({ name, email, again }: WelcomeData) {
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const data = new FormData(event.currentTarget);
    const password = String(data.get('password'));
    if (password !== String(data.get('again'))) return setTrouble(speak`The two are not the same`);
    setBusy(true);
    const result = await call<Entered>('POST', '/api/welcome/take', { token: tokenHere(), password }).catch(
      () => null,
    );
    setBusy(false);
    if (result?.ok === true) return location.assign(result.value.asksCode ? '/sign-in/code?to=/' : '/');
    setTrouble(
      result === null
        ? speak`The server cannot be reached. Try again in a moment`
        : (result.error.issues?.[0]?.sentence ?? result.error.title),
    );
  };
  const field = (id: string, label: string) => (
    <div className="mb-4">
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      <input id={id} name={id} type="password" autoComplete="new-password" required className="box" />
    </div>
  );
  return (
    <form method="post" onSubmit={(event) => void submit(event)}>
      <h1 className="mb-1 text-2xl">{again ? speak`A new password` : speak`Welcome, ${name}`}</h1>
      <p className="mb-4">{speakIn`${again ? speak`Choose another password.` : speak`Choose a password.`} You sign in with it and ${(<strong>{email}</strong>)} from then on.${again && speak` Wherever you are signed in now, you have to sign in again.`}`}</p>
      <input type="hidden" name="username" autoComplete="username" value={email} readOnly />
      {field('password', speak`Password`)}
      <p className="quiet -mt-3 mb-4">{speak`${passwordLength.least} characters or more; four words are easy to remember and hard to guess`}</p>
      {field('again', speak`Password once more`)}
      <div role="alert">{trouble !== '' && <p className="trouble mb-3">{trouble}</p>}</div>
      <button type="submit" disabled={busy} className="button button-go">
        {again ? speak`Save it and sign in` : speak`Save it and begin`}
      </button>
    </form>
  );
}
