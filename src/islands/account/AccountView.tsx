import { KeyRound, LogOut } from '../kit/icons';
import { useState, type FormEvent } from 'react';
import { passwordLength } from '../../core/access/password';
import type { TellingData } from '../../contract/notices';
import type { LookedData } from '../../contract/people';
import type { SessionData, SigningInData } from '../../contract/sign-in';
import type { OwnFormatsData } from '../../contract/workspace';
import { call } from '../kit/call';
import { LookedList } from '../kit/LookedList';
import { signOut } from '../kit/sign-out';
import { Codes } from './Codes';
import { OwnFormats } from './OwnFormats';
import { Passkeys } from './Passkeys';
import { Sessions } from './Sessions';
import { Telling } from './Telling';
import { speak } from '../../core/wording/speak';

interface Props extends SigningInData {
  readonly name: string;
  readonly email: string;
  readonly place: string;
  readonly telling: TellingData;
  readonly formats: OwnFormatsData;
  readonly looked: readonly LookedData[];
  readonly sessions: readonly SessionData[];
  /** Whether this address has a name, which passkeys are bound to. */
  readonly hasPasskeys: boolean;
}

/** Who somebody is here, as administrators keep it, and what they change themselves: how they are told of things, and their password. */
export default function AccountView({
  name,
  email,
  place,
  telling,
  formats,
  looked,
  sessions,
  asksCode,
  passkeys,
  hasPasskeys,
}: Props) {
  const [trouble, setTrouble] = useState<{ at: string; words: string } | null>(null);
  const [done, setDone] = useState(false);
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    const data = new FormData(form);
    const [present, next] = [String(data.get('present')), String(data.get('next'))];
    setDone(false);
    if (next !== String(data.get('again')))
      return setTrouble({ at: 'again', words: speak`This is not the same as above` });
    setBusy(true);
    const result = await call('POST', '/api/password', { present, next }).catch(() => null);
    setBusy(false);
    if (result === null)
      return setTrouble({ at: '', words: speak`The server cannot be reached; nothing was changed` });
    if (!result.ok) {
      const [issue] = result.error.issues ?? [];
      return setTrouble({ at: String(issue?.path[0] ?? ''), words: issue?.sentence ?? result.error.title });
    }
    setTrouble(null);
    setDone(true);
    form.reset();
  };
  const field = (id: string, label: string, auto: string, hint = '') => (
    <div className="mb-4">
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      <input
        id={id}
        name={id}
        type="password"
        autoComplete={auto}
        required
        className={`box max-w-80 ${trouble?.at === id ? 'wrong' : ''}`}
        aria-invalid={trouble?.at === id}
        aria-describedby={`${id}-about`}
      />
      <p id={`${id}-about`} className={trouble?.at === id ? 'trouble' : 'quiet'}>
        {trouble?.at === id ? trouble.words : hint}
      </p>
    </div>
  );
  return (
    <>
      <div className="flex items-center justify-between gap-3 pt-3.5 pb-3">
        <h1 className="text-[23px]">{speak`Your account`}</h1>
        {/* On a telephone the band has no room for it. */}
        <button type="button" className="button sm:hidden" onClick={() => void signOut()}>
          <LogOut size={15} aria-hidden />
          {speak`Sign out`}
        </button>
      </div>
      <div className="sheet-frame">
        <div className="py-4 pr-5 pl-[46px] max-sm:pl-4">
          <Telling telling={telling} email={email} />
          <OwnFormats formats={formats} />
          <Codes asked={asksCode} />
          {hasPasskeys && <Passkeys passkeys={passkeys} />}
          <Sessions sessions={sessions} />
          <form method="post" onSubmit={(event) => void submit(event)}>
            <h2 className="mb-3 flex items-center gap-2 text-lg">
              <KeyRound size={18} aria-hidden />
              {speak`Change your password`}
            </h2>
            {field('present', speak`Present password`, 'current-password')}
            {field(
              'next',
              speak`New password`,
              'new-password',
              speak`${passwordLength.least} characters or more; four words are easy to remember and hard to guess`,
            )}
            {field('again', speak`New password once more`, 'new-password')}
            <div role="alert">{trouble?.at === '' && <p className="trouble mb-3">{trouble.words}</p>}</div>
            <div role="status">
              {done && (
                <p className="mb-3 font-semibold text-lichen-deep">{speak`Changed. Everywhere else you have been signed out.`}</p>
              )}
            </div>
            <button
              type="submit"
              disabled={busy}
              className="button button-go"
            >{speak`Change the password`}</button>
          </form>
        </div>
        <aside id="margin" className="margin-pane" aria-label={speak`Who you are here`}>
          <section className="margin-part first">
            <h2 className="margin-title">{speak`Who you are here`}</h2>
            <p className="font-semibold">{name}</p>
            <p className="text-[14px]">{email}</p>
            {place !== '' && <p className="quiet">{place}</p>}
            <p className="quiet mt-2">{speak`Names sign what people do, so an administrator changes them.`}</p>
          </section>
          {looked.length > 0 && (
            <section className="margin-part">
              <h2 className="margin-title">{speak`Who looked as you`}</h2>
              <p className="text-[14px]">{speak`Administrators may see what you see. They can change nothing meanwhile.`}</p>
              <LookedList looked={looked} />
            </section>
          )}
        </aside>
      </div>
    </>
  );
}
