import { CircleAlert } from '../kit/icons';
import { useState, type FormEvent } from 'react';
import type { Problem } from '../../contract/answers-from-server';
import type { SourceData } from '../../contract/sources';
import { samePlace, type SourceAddress } from '../../core/link/source';
import { call } from '../kit/call';
import { newUuid } from '../../core/kernel/ids';
import { speak } from '../../core/wording/speak';

interface Props {
  /** Null for a new one. */
  readonly source: SourceData | null;
  readonly onKept: (id: string) => void;
  readonly onCancel: () => void;
}

const emptyDatabase = { t: 'database', host: '', port: 5432, database: '', user: '' } as const;
const emptyList = { t: 'list', url: '', header: '' } as const;

/** Where a source is, and its secret, which is given and never read back. */
export function SourceFields({ source, onKept, onCancel }: Props) {
  const [label, setLabel] = useState(source?.label ?? '');
  const [address, setAddress] = useState<SourceAddress>(source?.address ?? emptyDatabase);
  const [secret, setSecret] = useState('');
  const [state, setState] = useState<{ busy: boolean; problem: Pick<Problem, 'title' | 'issues'> | null }>({
    busy: false,
    problem: null,
  });
  const [id] = useState(source?.id ?? newUuid());
  // A secret goes only where it was given for.
  const keepsSecret = source?.hasSecret === true && samePlace(source.address, address);
  const keep = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    setState({ busy: true, problem: null });
    const done = await call('PUT', `/api/sources/${id}`, {
      version: source?.version ?? 0,
      label,
      address,
      secret: secret === '' && keepsSecret ? null : secret,
    }).catch(() => null);
    if (done?.ok === true) onKept(id);
    else
      setState({
        busy: false,
        problem:
          done === null
            ? { title: speak`The server could not be reached; nothing was kept. Try again` }
            : done.error,
      });
  };
  const wrongAt = (field: string): string =>
    state.problem?.issues?.find(({ path }) => path.join('.') === field)?.sentence ?? '';
  return (
    <form method="post" onSubmit={(event) => void keep(event)} className="grid max-w-xl gap-3">
      {source === null && (
        <fieldset className="flex flex-wrap gap-4 text-[14px]">
          <legend className="mb-1 font-semibold">{speak`It is`}</legend>
          {(
            [
              ['database', speak`another PostgreSQL database`, emptyDatabase],
              ['list', speak`a list at a JSON address`, emptyList],
            ] as const
          ).map(([t, words, empty]) => (
            <label key={t} className="flex items-center gap-1.5">
              <input
                type="radio"
                name="kind"
                checked={address.t === t}
                onChange={() => setAddress(empty)}
                className="accent-lichen"
              />
              {words}
            </label>
          ))}
        </fieldset>
      )}
      <Field label={speak`Name`} wrong={wrongAt('label')}>
        <input
          className="box"
          value={label}
          required
          maxLength={200}
          onChange={(event) => setLabel(event.target.value)}
          placeholder={address.t === 'database' ? speak`Orders of the shop` : speak`Postcodes`}
        />
      </Field>
      {address.t === 'database' ? (
        <>
          <div className="grid grid-cols-[minmax(0,1fr)_110px] gap-3">
            <Field label={speak`Host`} wrong={wrongAt('address.host')}>
              <input
                className="box"
                value={address.host}
                required
                onChange={(event) => setAddress({ ...address, host: event.target.value.trim() })}
                placeholder="database.example"
              />
            </Field>
            <Field label={speak`Port`} wrong={wrongAt('address.port')}>
              <input
                className="box"
                type="number"
                min={1}
                max={65_535}
                required
                value={address.port}
                onChange={(event) => setAddress({ ...address, port: Number(event.target.value) })}
              />
            </Field>
          </div>
          <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
            <Field label={speak`Database`} wrong={wrongAt('address.database')}>
              <input
                className="box"
                value={address.database}
                required
                maxLength={63}
                onChange={(event) => setAddress({ ...address, database: event.target.value })}
              />
            </Field>
            <Field label={speak`User`} wrong={wrongAt('address.user')}>
              <input
                className="box"
                value={address.user}
                required
                maxLength={63}
                autoComplete="off"
                onChange={(event) => setAddress({ ...address, user: event.target.value })}
              />
            </Field>
          </div>
        </>
      ) : (
        <>
          <Field label={speak`Address`} wrong={wrongAt('address.url')}>
            <input
              className="box"
              value={address.url}
              required
              maxLength={2_000}
              inputMode="url"
              onChange={(event) => setAddress({ ...address, url: event.target.value })}
              placeholder="https://register.example/names"
            />
          </Field>
          <Field
            label={speak`Header that carries the secret, if it asks for one`}
            wrong={wrongAt('address.header')}
          >
            <input
              className="box"
              value={address.header}
              maxLength={100}
              pattern="[A-Za-z0-9\-]*"
              onChange={(event) => setAddress({ ...address, header: event.target.value.trim() })}
              placeholder={speak`Authorization`}
            />
          </Field>
        </>
      )}
      {(address.t === 'database' || address.header !== '') && (
        <Field label={address.t === 'database' ? speak`Password` : speak`Secret`} wrong={wrongAt('secret')}>
          <input
            className="box"
            type="password"
            value={secret}
            maxLength={2_000}
            autoComplete="new-password"
            required={!keepsSecret}
            onChange={(event) => setSecret(event.target.value)}
            placeholder={keepsSecret ? speak`The one that is kept stays` : ''}
          />
        </Field>
      )}
      {state.problem !== null && (state.problem.issues ?? []).every(({ path }) => path.length === 0) && (
        <p role="alert" className="trouble m-0!">
          <CircleAlert size={15} aria-hidden />
          {state.problem.title}
        </p>
      )}
      <p className="flex flex-wrap gap-2">
        <button type="submit" className="button button-go" disabled={state.busy}>
          {source === null ? speak`Keep it and look into it` : speak`Keep the source`}
        </button>
        <button type="button" className="button" onClick={onCancel}>{speak`Cancel`}</button>
      </p>
    </form>
  );
}

function Field({ label, wrong, children }: { label: string; wrong: string; children: React.ReactNode }) {
  return (
    <label className="block text-[14px]">
      <span className="mb-0.5 block font-semibold">{label}</span>
      {children}
      {wrong !== '' && (
        <span role="alert" className="trouble">
          {wrong}
        </span>
      )}
    </label>
  );
}
