import { API } from '../../core/api/open-api';
import type { JsonSchema } from '../../core/kernel/json-schema';
import { KeyRound } from '../kit/icons';
import { Said } from '../kit/Said';
import { useSaying } from '../kit/use-saying';
import { ask } from './ask';

interface Props {
  readonly token: string;
  readonly setToken: (token: string) => void;
  /** Whether what is shown is what this token reaches. */
  readonly isNarrowed: boolean;
  readonly onReached: (document: JsonSchema | null) => void;
}

/** The token that requests are tried with. It is kept nowhere: leaving the page forgets it. */
export function TokenPart({ token, setToken, isNarrowed, onReached }: Props) {
  const { saying, say } = useSaying();
  const show = () =>
    say(
      async () => {
        const answer = await ask(`${location.origin}${API}/openapi.json`, 'GET', token, {}, null);
        if (answer.problem !== null) return { ok: false as const, error: answer.problem };
        onReached(answer.body as JsonSchema);
        return { ok: true as const, value: null };
      },
      '',
      () => undefined,
    );
  return (
    <section className="margin-part first" aria-labelledby="token">
      <h2 id="token" className="margin-title">
        <KeyRound size={16} aria-hidden />
        With which token
      </h2>
      <p className="mb-2 text-[14px]">
        {isNarrowed
          ? 'This is what the token reaches, and nothing else.'
          : 'This is what a token for you could reach. Paste one to see what it does, and to try it.'}
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void show();
        }}
      >
        <input
          type="password"
          autoComplete="off"
          aria-label="Token"
          placeholder="slate_…"
          className="box font-mono text-[13px]"
          value={token}
          onChange={(event) => {
            setToken(event.target.value.trim());
            if (isNarrowed) onReached(null);
          }}
        />
        <button type="submit" className="button mt-2" disabled={token === '' || saying.busy}>
          Show what it reaches
        </button>
      </form>
      <Said saying={saying} />
    </section>
  );
}
