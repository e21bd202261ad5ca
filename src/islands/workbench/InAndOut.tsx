import { useState } from 'react';
import { newUuid } from '../../core/kernel/ids';
import { call } from '../kit/call';
import { Copy, Download } from '../kit/icons';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

/** The form beside this workspace: a copy of it, its file, and the schema of what it asks for. */
export function InAndOut({ bench }: { bench: Workbench }) {
  // Pressed twice, it makes one copy.
  const [copyId] = useState(newUuid);
  const [trouble, setTrouble] = useState('');
  const { id } = bench.data;
  const copy = async () => {
    if (!(await bench.keep())) return;
    const made = await call<{ id: string }>('POST', '/api/forms', {
      id: copyId,
      title: speak`${bench.design.title} (copy)`.slice(0, 200),
      like: id,
    }).catch(() => null);
    if (made?.ok === true) return location.assign(`/forms/${made.value.id}`);
    setTrouble(made === null ? speak`The server cannot be reached; nothing was copied.` : made.error.title);
  };
  return (
    <section className="margin-part" aria-labelledby="copies">
      <h2 id="copies" className="margin-title">{speak`Copies and files`}</h2>
      <p className="grid justify-items-start gap-1">
        <button type="button" className="button-plain" onClick={() => void copy()}>
          <Copy size={14} aria-hidden />
          {speak`Make another form like it`}
        </button>
        <a
          className="button-plain no-underline"
          href={`/api/forms/${id}/file`}
          download={`${bench.data.key}.form.json`}
        >
          <Download size={14} aria-hidden />
          {speak`Take it out as a file`}
        </a>
        <a
          className="button-plain no-underline"
          href={`/api/forms/${id}/answers-schema`}
          download={`${bench.data.key}.schema.json`}
        >
          <Download size={14} aria-hidden />
          {speak`Its answers as JSON Schema`}
        </a>
      </p>
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
    </section>
  );
}
