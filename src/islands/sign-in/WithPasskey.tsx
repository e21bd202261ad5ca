import type { PublicKeyCredentialRequestOptionsJSON } from '@simplewebauthn/browser';
import { useState } from 'react';
import { call } from '../kit/call';
import { Fingerprint } from '../kit/icons';
import { notReached } from './not-reached';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly to: string;
  readonly say: (trouble: string) => void;
}

/** Signing in by what a device keeps: it asks for a finger, a face or a number, and no password is typed. */
export function WithPasskey({ to, say }: Props) {
  const [busy, setBusy] = useState(false);
  const enter = async () => {
    setBusy(true);
    say('');
    const trouble = await triedPasskey();
    if (trouble === null) return location.assign(to);
    setBusy(false);
    say(trouble);
  };
  return (
    <button type="button" className="button" disabled={busy} onClick={() => void enter()}>
      <Fingerprint size={16} aria-hidden />
      {speak`Sign in with a passkey`}
    </button>
  );
}

/** Null when it let somebody in, and otherwise what went wrong. */
async function triedPasskey(): Promise<string | null> {
  const { startAuthentication } = await import('@simplewebauthn/browser');
  const asked = await call<PublicKeyCredentialRequestOptionsJSON>('POST', '/api/sign-in/passkey', {}).catch(
    notReached,
  );
  if (!asked.ok) return asked.error.title;
  const response = await startAuthentication({ optionsJSON: asked.value }).catch(() => null);
  if (response === null) return speak`No passkey was given. Try again, or sign in by your password`;
  const entered = await call('PUT', '/api/sign-in/passkey', { response }).catch(notReached);
  return entered.ok ? null : entered.error.title;
}
