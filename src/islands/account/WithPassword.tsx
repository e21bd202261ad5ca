import { useId, useState, type FormEvent } from 'react';
import { focused } from '../kit/focused';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly verb: string;
  /** Does it; gives what went wrong, or null. */
  readonly go: (password: string) => Promise<string | null>;
}

/** What is not done by a session alone: the password is asked for once more, when it is wanted. */
export function WithPassword({ verb, go }: Props) {
  const id = useId();
  const [isOpen, setOpen] = useState(false);
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    setBusy(true);
    const password = String(new FormData(event.currentTarget).get('password'));
    const wrong = await go(password).catch(() => speak`The server cannot be reached; nothing was changed`);
    setBusy(false);
    setTrouble(wrong ?? '');
    if (wrong === null) setOpen(false);
  };
  if (!isOpen)
    return (
      <button type="button" className="button" onClick={() => setOpen(true)}>
        {verb}
      </button>
    );
  return (
    <form method="post" onSubmit={(event) => void submit(event)}>
      <label htmlFor={id} className="mb-1 block font-semibold">{speak`Your password, once more`}</label>
      <input
        id={id}
        name="password"
        type="password"
        autoComplete="current-password"
        ref={focused}
        required
        className={`box mb-2 max-w-80 ${trouble === '' ? '' : 'wrong'}`}
        aria-invalid={trouble !== ''}
      />
      <div role="alert">{trouble !== '' && <p className="trouble mb-2">{trouble}</p>}</div>
      <button type="submit" className="button button-dark" disabled={busy}>
        {verb}
      </button>
      <button
        type="button"
        className="button-plain ml-2"
        onClick={() => setOpen(false)}
      >{speak`Leave it`}</button>
    </form>
  );
}
