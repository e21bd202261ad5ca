import { useRef, useState } from 'react';
import type { Unknown } from '../../core/form/form-file';
import { newUuid } from '../../core/kernel/ids';
import { call, troubleInFull } from '../kit/call';
import { FileInput } from '../kit/icons';
import { speak } from '../../core/wording/speak';

interface TakenIn {
  readonly id: string;
  readonly unknown: Unknown;
  readonly notAsked: readonly { readonly path: string; readonly why: 'nested' | 'no-type' }[];
}

/** A form from a file: one that was taken out of a workspace, or a JSON Schema of what is to be asked. */
export function TakeIn() {
  const input = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState('');
  const [taken, setTaken] = useState<TakenIn | null>(null);
  const bring = async (chosen: File | undefined) => {
    if (chosen === undefined) return;
    setTrouble('');
    setTaken(null);
    const file = await parsed(chosen);
    if (file === null) return setTrouble(speak`${chosen.name} is no JSON, so there is no form in it.`);
    const made = await call<TakenIn>('POST', '/api/forms/file', { id: newUuid(), file }).catch(() => null);
    if (made === null) return setTrouble(speak`The server cannot be reached; nothing was made.`);
    if (!made.ok) return setTrouble(troubleInFull(made.error));
    const { unknown, notAsked } = made.value;
    if (Object.values(unknown).flat().length + notAsked.length === 0)
      return location.assign(`/forms/${made.value.id}`);
    setTaken(made.value);
  };
  return (
    <section className="margin-part" aria-labelledby="take-in">
      <h2 id="take-in" className="margin-title">
        <FileInput size={16} aria-hidden />
        {speak`From a file`}
      </h2>
      <p className="quiet mb-2">{speak`A form taken out of a workspace, or a JSON Schema of what it is to ask.`}</p>
      <input
        ref={input}
        type="file"
        accept="application/json,.json"
        aria-label={speak`File of a form`}
        className="sr-only"
        tabIndex={-1}
        onChange={({ target }) => {
          void bring(target.files?.[0]);
          target.value = '';
        }}
      />
      <button
        type="button"
        className="button"
        onClick={() => input.current?.click()}
      >{speak`Choose a file`}</button>
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
      {taken !== null && <Left taken={taken} />}
    </section>
  );
}

function Left({ taken }: { taken: TakenIn }) {
  return (
    <div role="status" className="mt-2 text-[14px]">
      <p className="font-semibold">{speak`The form is made. This had no place in it:`}</p>
      <ul className="mb-2 list-disc pl-5">
        {taken.unknown.tables.map((label) => (
          <li key={label}>{speak`the table ${label}, which is not here: give its lookups another`}</li>
        ))}
        {taken.unknown.people.map((name) => (
          <li key={name}>{speak`${name}, who is not here and is asked no more`}</li>
        ))}
        {taken.unknown.groups.map((label) => (
          <li key={label}>{speak`the group ${label}, which is not here and is asked no more`}</li>
        ))}
        {taken.notAsked.map(({ path, why }) => (
          <li key={path}>
            <code className="font-mono">{path}</code>,{' '}
            {why === 'nested'
              ? speak`which is an object or list within another`
              : speak`whose type is not said`}
          </li>
        ))}
      </ul>
      <a className="button button-dark" href={`/forms/${taken.id}`}>{speak`Go to the form`}</a>
    </div>
  );
}

async function parsed(file: File): Promise<object | null> {
  try {
    const value: unknown = JSON.parse(await file.text());
    return typeof value === 'object' && value !== null && !Array.isArray(value) ? value : null;
  } catch {
    return null;
  }
}
