import { useRef, useState } from 'react';
import { bringPicture, PICTURES } from '../kit/bring-picture';
import { call, troubleOf } from '../kit/call';
import { ImagePlus, Trash2 } from '../kit/icons';
import { speak } from '../../core/wording/speak';

/** The logo of the organisation, shown in the band of every page at once. */
export function Logo({ logo }: { readonly logo: string | null }) {
  const chooser = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState('');
  const change = async (work: () => Promise<string>): Promise<void> => {
    setBusy(true);
    setTrouble('');
    const words = await work().catch(() => speak`The server cannot be reached; nothing was changed`);
    // The band at the top is drawn by the server.
    if (words === '') window.location.reload();
    else {
      setTrouble(words);
      setBusy(false);
    }
  };
  const bring = (file: File) =>
    change(async () => {
      const brought = await bringPicture('/api/workspace/logo', file);
      return brought.ok ? '' : brought.error;
    });
  const drop = () =>
    change(async () => {
      const dropped = await call('DELETE', '/api/workspace/logo', {});
      return dropped.ok ? '' : troubleOf(dropped.error);
    });
  return (
    <section aria-label={speak`Logo`} className="border-t border-slate-200 py-4 pr-5 pl-[46px] max-sm:pl-4">
      <h2 className="mb-1 font-sans text-[15px] font-semibold">{speak`Logo`}</h2>
      <p className="quiet mb-2">{speak`It stands at the top of every page, also for people outside who fill a form.`}</p>
      <div className="flex flex-wrap items-center gap-3">
        {logo !== null && (
          <img src={logo} alt={speak`The logo there is`} className="logo border border-slate-300" />
        )}
        <button type="button" className="button" disabled={busy} onClick={() => chooser.current?.click()}>
          <ImagePlus size={15} aria-hidden />
          {logo === null ? speak`Choose a picture` : speak`Choose another picture`}
        </button>
        {logo !== null && (
          <button type="button" className="button" disabled={busy} onClick={() => void drop()}>
            <Trash2 size={15} aria-hidden />
            {speak`Take it off`}
          </button>
        )}
        <input
          ref={chooser}
          type="file"
          hidden
          aria-label={speak`Logo`}
          accept={PICTURES}
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            target.value = '';
            if (file !== undefined) void bring(file);
          }}
        />
      </div>
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
    </section>
  );
}
