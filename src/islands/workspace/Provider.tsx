import { useState, type FormEvent } from 'react';
import type { ProviderData } from '../../contract/sign-in';
import { call } from '../kit/call';
import { LogIn } from '../kit/icons';
import { Said } from '../kit/Said';
import { useSaying } from '../kit/use-saying';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const nothing = { label: '', issuer: '', clientId: '', version: 0 };

/** The service outside by which people may sign in, if there is one. */
export function Provider({ data: { back, provider } }: { readonly data: ProviderData }) {
  const [there, setThere] = useState(provider);
  const { saying, say } = useSaying();
  const version = there?.version ?? 0;
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const typed = Object.fromEntries(new FormData(event.currentTarget)) as Record<string, string>;
    const { label = '', issuer = '', clientId = '', secret = '' } = typed;
    void say(
      () => call('PUT', '/api/workspace/provider', { label, issuer, clientId, secret, version }),
      speak`Saved. The sign-in page offers it from now on.`,
      () => setThere({ label, issuer, clientId, version: version + 1 }),
    );
  };
  const end = () =>
    void say(
      () => call('DELETE', '/api/workspace/provider', { version }),
      speak`Nobody signs in by it any more.`,
      () => setThere(null),
    );
  const now = there ?? nothing;
  const field = (name: keyof typeof nothing | 'secret', label: string, about = '') => (
    <label className="mb-3 block text-[14px] font-semibold">
      {label}
      <input
        name={name}
        type={name === 'secret' ? 'password' : 'text'}
        autoComplete="off"
        required={name !== 'secret' || there === null}
        defaultValue={name === 'secret' ? '' : String(now[name])}
        placeholder={name === 'secret' && there !== null ? speak`as it was` : ''}
        maxLength={500}
        className={`box mt-0.5 block max-w-120 font-normal ${saying.at === name ? 'wrong' : ''}`}
        aria-invalid={saying.at === name}
      />
      {about !== '' && <span className="quiet block font-normal">{about}</span>}
    </label>
  );
  return (
    <section aria-labelledby="provider" className="border-t border-slate-200 py-4 pr-5 pl-[46px] max-sm:pl-4">
      <h2 id="provider" className="mb-1 flex items-center gap-2 text-lg">
        <LogIn size={18} aria-hidden />
        {speak`Signing in by another service`}
      </h2>
      <p className="mb-3 text-[14px]">{speakIn`People who have an account there (OpenID Connect) sign in by it, the first time by the e-mail address it vouches for. Whoever is nobody here is not let in. Tell the service this address: ${(<code className="font-mono text-[13px] break-all">{back}</code>)}`}</p>
      <form key={now.version} method="post" onSubmit={submit}>
        {field('label', speak`What people call it`, speak`as in “Sign in with …”`)}
        {field('issuer', speak`Its address`, speak`of its issuer, as the service names it`)}
        {field('clientId', speak`What it calls this workspace`, speak`the client ID`)}
        {field('secret', speak`The secret it has given`, speak`kept encrypted, and shown nowhere`)}
        <button type="submit" className="button button-dark" disabled={saying.busy}>
          {there === null ? speak`Offer it` : speak`Save it`}
        </button>
        {there !== null && (
          <button
            type="button"
            className="button-plain ml-2 text-rust!"
            onClick={end}
          >{speak`Take it away`}</button>
        )}
      </form>
      <Said saying={saying} />
    </section>
  );
}
