import { useState, type FormEvent } from 'react';
import type { Entered } from '../../contract/sign-in';
import { call } from '../kit/call';
import CodeView from './CodeView';
import { LogIn } from '../kit/icons';
import { notReached } from './not-reached';
import { WithPasskey } from './WithPasskey';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly to: string;
  /** What went wrong with what was sent before the page answered; empty for nothing. */
  readonly refused: string;
  readonly samples: readonly { readonly name: string; readonly email: string; readonly place: string }[];
  readonly samplePassword: string;
  /** Whether this address has a name, which passkeys are bound to. */
  readonly passkeys: boolean;
  /** What the service outside is called by which people may sign in. */
  readonly provider: string | null;
}

/** Sign-in by e-mail and password, or by a passkey; with the sample world, by one click as one of its people. */
export default function SignInView({ to, refused, samples, samplePassword, passkeys, provider }: Props) {
  const [trouble, setTrouble] = useState(refused);
  const [busy, setBusy] = useState(false);
  const [asksCode, setAsksCode] = useState(false);
  const enter = async (email: string, password: string) => {
    setBusy(true);
    const result = await call<Entered>('POST', '/api/sign-in', { email, password }).catch(notReached);
    if (result.ok && !result.value.asksCode) return location.assign(to);
    setBusy(false);
    if (result.ok) setAsksCode(true);
    else setTrouble(result.error.title);
  };
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    void enter(String(form.get('email')), String(form.get('password')));
  };
  if (asksCode) return <CodeView to={to} again={() => setAsksCode(false)} />;
  return (
    <div className="mx-auto mt-12 grid max-w-4xl gap-0 overflow-clip rounded-lg border border-slate-200 bg-white md:grid-cols-[1fr_372px]">
      <form method="post" onSubmit={submit} className="p-8">
        <h1 className="mb-5 text-2xl">{speak`Sign in`}</h1>
        <label className="mb-1 block font-semibold" htmlFor="email">{speak`E-mail`}</label>
        <input id="email" name="email" type="email" autoComplete="username" required className="box mb-4" />
        <label className="mb-1 block font-semibold" htmlFor="password">{speak`Password`}</label>
        <input
          id="password"
          name="password"
          type="password"
          autoComplete="current-password"
          required
          className="box mb-4"
        />
        <div role="alert">{trouble !== '' && <p className="trouble mb-3">{trouble}</p>}</div>
        <button type="submit" disabled={busy} className="button button-dark">{speak`Sign in`}</button>
        <a href="/forgotten" className="ml-4 text-lichen underline">{speak`Forgotten your password?`}</a>
        {(passkeys || provider !== null) && (
          <p className="mt-5 flex flex-wrap gap-2 border-t border-slate-200 pt-4">
            {provider !== null && (
              <a className="button no-underline" href={`/sign-in/with?to=${encodeURIComponent(to)}`}>
                <LogIn size={16} aria-hidden />
                {speak`Sign in with ${provider}`}
              </a>
            )}
            {passkeys && <WithPasskey to={to} say={setTrouble} />}
          </p>
        )}
      </form>
      {samples.length > 0 && (
        <section className="border-l border-slate-200 bg-slate-50 p-5" aria-labelledby="try">
          <h2 id="try" className="margin-title">{speak`Try it as`}</h2>
          <p className="quiet mb-3">{speak`Quillmere Botanic Garden is made up, and so is everybody in it.`}</p>
          <ul className="grid gap-1.5">
            {samples.map(({ name, email, place }) => (
              <li key={email}>
                <button
                  type="button"
                  disabled={busy}
                  onClick={() => void enter(email, samplePassword)}
                  className="button w-full justify-between"
                >
                  {name}
                  <span className="font-normal text-slate-600">{place}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
