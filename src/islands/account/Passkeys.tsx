import type { PublicKeyCredentialCreationOptionsJSON } from '@simplewebauthn/browser';
import { useState } from 'react';
import type { PasskeyData, SigningInData } from '../../contract/sign-in';
import { call, fetched, troubleInFull } from '../kit/call';
import { Fingerprint } from '../kit/icons';
import { when } from '../kit/when';
import { WithPassword } from './WithPassword';
import { speak } from '../../core/wording/speak';

/** Keys that devices keep: whoever holds one signs in without a password. */
export function Passkeys({ passkeys }: { readonly passkeys: readonly PasskeyData[] }) {
  const [there, setThere] = useState(passkeys);
  const [trouble, setTrouble] = useState('');
  const refresh = async () => setThere((await fetched<SigningInData>('/api/passkeys')).passkeys);
  const remove = async (id: string) => {
    const done = await call('DELETE', `/api/passkeys/${id}`, {}).catch(() => null);
    setTrouble(
      done === null
        ? speak`The server cannot be reached; nothing was changed`
        : done.ok
          ? ''
          : done.error.title,
    );
    if (done?.ok === true) await refresh();
  };
  return (
    <section aria-labelledby="passkeys" className="mb-8 max-w-xl">
      <h2 id="passkeys" className="mb-2 flex items-center gap-2 text-lg">
        <Fingerprint size={18} aria-hidden />
        {speak`Passkeys`}
      </h2>
      {there.length === 0 ? (
        <p className="mb-2">{speak`This device can keep a key for you: then you sign in by a finger, a face or a number, and no password.`}</p>
      ) : (
        <ul className="mb-3 grid gap-2">
          {there.map(({ id, label, since, lastUsed }) => (
            <li
              key={id}
              className="flex flex-wrap items-baseline justify-between gap-x-4 border-b border-slate-200 pb-2"
            >
              <span>
                <strong>{label}</strong>
                <span className="quiet block">{speak`since ${when(since)}, ${lastUsed === null ? speak`not used yet` : speak`used last ${when(lastUsed)}`}`}</span>
              </span>
              <button
                type="button"
                className="button-plain"
                aria-label={speak`Remove the passkey ${label}, since ${when(since)}`}
                onClick={() => void remove(id)}
              >{speak`Remove it`}</button>
            </li>
          ))}
        </ul>
      )}
      <div role="alert">{trouble !== '' && <p className="trouble mb-2">{trouble}</p>}</div>
      <WithPassword
        verb={there.length === 0 ? speak`Add a passkey` : speak`Add another passkey`}
        go={async (password) => {
          const wrong = await added(password);
          if (wrong === null) await refresh();
          return wrong;
        }}
      />
    </section>
  );
}

async function added(password: string): Promise<string | null> {
  const { startRegistration } = await import('@simplewebauthn/browser');
  const asked = await call<PublicKeyCredentialCreationOptionsJSON>('POST', '/api/passkeys', { password });
  if (!asked.ok) return troubleInFull(asked.error);
  const response = await startRegistration({ optionsJSON: asked.value }).catch((error: unknown) =>
    error instanceof Error && error.name === 'InvalidStateError' ? ('there' as const) : null,
  );
  if (response === 'there') return speak`This device keeps a passkey of yours already`;
  if (response === null) return speak`The device has made no passkey. Try again when it is ready`;
  const kept = await call('PUT', '/api/passkeys', { response });
  return kept.ok ? null : troubleInFull(kept.error);
}
