import { useState, type FormEvent } from 'react';
import { encode } from 'uqr';
import type { SecondStepData } from '../../contract/sign-in';
import { call, troubleInFull } from '../kit/call';
import { ShieldCheck } from '../kit/icons';
import { WithPassword } from './WithPassword';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** A code besides the password: set up, confirmed by the first, and taken off. */
export function Codes({ asked }: { readonly asked: boolean }) {
  const [isOn, setOn] = useState(asked);
  const [setUp, setSetUp] = useState<SecondStepData | null>(null);
  return (
    <section aria-labelledby="codes" className="mb-8 max-w-xl">
      <h2 id="codes" className="mb-2 flex items-center gap-2 text-lg">
        <ShieldCheck size={18} aria-hidden />
        {speak`A code besides the password`}
      </h2>
      {isOn ? (
        <p
          className="mb-2"
          role="status"
        >{speak`Signing in asks you for a code of your program. Whoever has only your password does not come in.`}</p>
      ) : (
        setUp === null && (
          <p className="mb-2">{speak`With a program for codes on your telephone, nobody comes in who has only your password.`}</p>
        )
      )}
      {setUp !== null && !isOn ? (
        <SetUp
          setUp={setUp}
          done={() => {
            setOn(true);
            setSetUp(null);
          }}
        />
      ) : (
        <WithPassword
          key={String(isOn)}
          verb={isOn ? speak`Sign in without a code from now on` : speak`Set it up`}
          go={async (password) => {
            const result = await call<SecondStepData>(isOn ? 'DELETE' : 'POST', '/api/second-step', {
              password,
            });
            if (!result.ok) return troubleInFull(result.error);
            if (isOn) setOn(false);
            else setSetUp(result.value);
            return null;
          }}
        />
      )}
    </section>
  );
}

const secretOf = (uri: string): string => new URL(uri).searchParams.get('secret') ?? '';

function SetUp({
  setUp: { uri, spare },
  done,
}: {
  readonly setUp: SecondStepData;
  readonly done: () => void;
}) {
  const [trouble, setTrouble] = useState('');
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const code = String(new FormData(event.currentTarget).get('code'));
    const result = await call('PUT', '/api/second-step', { code }).catch(() => null);
    if (result?.ok === true) return done();
    setTrouble(
      result === null
        ? speak`The server cannot be reached; nothing was changed`
        : (result.error.issues?.[0]?.sentence ?? result.error.title),
    );
  };
  return (
    <form method="post" onSubmit={(event) => void submit(event)}>
      <ol className="list-decimal pl-5">
        <li className="mb-3">{speakIn`Let your program read this picture, or type what stands below it.${(<Picture of={uri} />)}${(<code className="block font-mono text-[13px] break-all">{secretOf(uri)}</code>)}`}</li>
        <li className="mb-3">
          {speak`Keep these spare codes where you find them without your telephone. Each is good once, and they are shown only now.`}
          <ul aria-label={speak`Spare codes`} className="mt-1 grid grid-cols-2 gap-x-6 font-mono text-[14px]">
            {spare.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </li>
        <li>
          <label
            htmlFor="first-code"
            className="mb-1 block"
          >{speak`Type the six figures your program shows now.`}</label>
          <input
            id="first-code"
            name="code"
            required
            maxLength={10}
            inputMode="numeric"
            autoComplete="one-time-code"
            className={`box mb-2 max-w-40 font-mono ${trouble === '' ? '' : 'wrong'}`}
            aria-invalid={trouble !== ''}
          />
          <div role="alert">{trouble !== '' && <p className="trouble mb-2">{trouble}</p>}</div>
        </li>
      </ol>
      <button type="submit" className="button button-go">{speak`Ask me for a code from now on`}</button>
    </form>
  );
}

/** A picture of squares that a camera reads, by ISO/IEC 18004. */
function Picture({ of }: { readonly of: string }) {
  const { data, size } = encode(of, { border: 1 });
  const path = data.flatMap((row, y) => row.flatMap((dark, x) => (dark ? `M${x} ${y}h1v1h-1z` : [])));
  return (
    <svg
      role="img"
      aria-label={speak`The picture for your program`}
      viewBox={`0 0 ${size} ${size}`}
      className="my-2 block size-44 bg-white"
      shapeRendering="crispEdges"
    >
      <path d={path.join('')} className="fill-ink" />
    </svg>
  );
}
