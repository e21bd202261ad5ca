import { useRef, useState } from 'react';
import type { Problem } from '../../contract/answers-from-server';
import { newUuid } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
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
    const told = await brought(form, file);
    setBusy(false);
    if (told.t === 'there') onAdded(told.text);
    else setTrouble(told.words);
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
        accept="image/jpeg,image/png,image/webp,image/gif"
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

type Brought = { readonly t: 'there'; readonly text: string } | { readonly t: 'not'; readonly words: string };

async function brought(form: string, file: File): Promise<Brought> {
  if (file.size > limits.pictureBytes)
    return { t: 'not', words: speak`A picture may have ${limits.pictureBytes / 1024 / 1024} MB at most` };
  const id = newUuid();
  try {
    const response = await fetch(`/api/forms/${form}/pictures/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/octet-stream' },
      body: file,
    });
    if (response.ok) {
      const { pictureText } = await import('../kit/markup');
      return { t: 'there', text: pictureText(id, file.name.replace(/\.\w+$/, '').replace(/[_-]+/g, ' ')) };
    }
    const { title, issues = [] } = (await response.json()) as Problem;
    return { t: 'not', words: issues[0]?.sentence ?? title };
  } catch {
    return { t: 'not', words: speak`The server cannot be reached; the picture was not brought` };
  }
}
