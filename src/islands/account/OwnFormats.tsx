import { useState } from 'react';
import type { OwnFormatsData } from '../../contract/workspace';
import type { Formats } from '../../core/formats/formats';
import { call, troubleOf } from '../kit/call';
import { FormatsWords } from '../kit/FormatsWords';
import { Languages } from '../kit/icons';
import { speak } from '../../core/wording/speak';

/** How somebody reads and writes days and numbers. What they pick is kept at once, and seen on the next page. */
export function OwnFormats({ formats: { own, house } }: { formats: OwnFormatsData }) {
  const [value, setValue] = useState<Partial<Formats>>(own as Partial<Formats>);
  const [said, setSaid] = useState<{ words: string; wrong: boolean } | null>(null);
  const change = async (next: Partial<Formats>) => {
    const before = value;
    setValue(next);
    setSaid(null);
    const done = await call('PUT', '/api/own-formats', next).catch(() => null);
    if (done?.ok === true) {
      // Everything on the page is written anew.
      window.location.reload();
      return;
    }
    setValue(before);
    setSaid({
      words: done === null ? speak`The server cannot be reached; it is as before.` : troubleOf(done.error),
      wrong: true,
    });
  };
  return (
    <section id="formats" className="mb-6 border-b border-slate-200 pb-5">
      <h2 className="mb-3 flex items-center gap-2 text-lg">
        <Languages size={18} aria-hidden />
        {speak`How days and numbers are written for you`}
      </h2>
      <FormatsWords value={value} house={house} onChange={(next) => void change(next)} />
      <p className="quiet">{speak`You type them in the same way. What is kept is the same for everybody.`}</p>
      <div role="status">{said !== null && <p className="trouble">{said.words}</p>}</div>
    </section>
  );
}
