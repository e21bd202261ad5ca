import { useRef, useState } from 'react';
import { newUuid } from '../../core/kernel/ids';
import { bringPicture, PICTURES } from '../kit/bring-picture';
import { ImagePlus } from '../kit/icons';
import { speak } from '../../core/wording/speak';

/** Brings a picture for a text; it is put where the text ends, with what it shows in brackets, to be moved and worded there. */
export function AddPicture({ form, onAdded }: { form: string; onAdded: (picture: string) => void }) {
  const chooser = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState('');
  const bring = async (file: File) => {
    setBusy(true);
    setTrouble('');
    const id = newUuid();
    const brought = await bringPicture(`/api/forms/${form}/pictures/${id}`, file);
    setBusy(false);
    if (!brought.ok) return setTrouble(brought.error);
    const { pictureText } = await import('../kit/markup');
    onAdded(pictureText(id, file.name.replace(/\.\w+$/, '').replace(/[_-]+/g, ' ')));
  };
  return (
    <div className="mb-2">
      <button type="button" className="button-plain" disabled={busy} onClick={() => chooser.current?.click()}>
        <ImagePlus size={15} aria-hidden />
        {busy ? speak`It is being brought…` : speak`Add a picture`}
      </button>
      <input
        ref={chooser}
        type="file"
        hidden
        aria-label={speak`Picture`}
        accept={PICTURES}
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          target.value = '';
          if (file !== undefined) void bring(file);
        }}
      />
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
    </div>
  );
}
