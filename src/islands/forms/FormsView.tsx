import { FilePlus2, Pencil } from '../kit/icons';
import { useState, type FormEvent } from 'react';
import type { FormsData } from '../../contract/answers-from-server';
import { newUuid } from '../../core/kernel/ids';
import { call } from '../kit/call';
import { when } from '../kit/when';
import { TakeIn } from './TakeIn';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Every form, and the place where a new one begins. */
export default function FormsView({ initial }: { initial: FormsData }) {
  return (
    <>
      <h1 className="pt-5 pb-4 text-2xl">{speak`Forms`}</h1>
      <div className="sheet-frame">
        <section aria-label={speak`All forms`}>
          {initial.forms.length === 0 && (
            <p className="p-5">{speak`There is no form yet. Name the first one in the margin; you can ask its questions right away.`}</p>
          )}
          <ul>
            {initial.forms.map((form) => (
              <li
                key={form.id}
                className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-3 border-b border-slate-200 px-5 py-2.5"
              >
                <div className="min-w-0">
                  <p className="truncate font-semibold">
                    {form.mine ? (
                      <a className="text-ink hover:underline" href={`/forms/${form.id}`}>
                        {form.title || speak`Form without a name`}
                      </a>
                    ) : (
                      form.title
                    )}
                  </p>
                  <p className="quiet">{speakIn`${form.area !== '' && `${form.area} · `}${form.owner} · changed ${when(form.updatedAt)}`}</p>
                </div>
                <span
                  className={`tag ${form.release === null || form.edited ? 'bg-ochre-soft text-ochre' : 'bg-lichen-soft text-lichen-deep'}`}
                >
                  {(form.release === null || form.edited) && <Pencil size={13} aria-hidden />}
                  {form.release === null
                    ? speak`Not released`
                    : form.edited
                      ? speak`Edits not released · release ${form.release} is live`
                      : speak`Release ${form.release} is live`}
                </span>
              </li>
            ))}
          </ul>
        </section>
        <aside id="margin" className="margin-pane" aria-labelledby="new">
          <NewForm />
          <TakeIn />
        </aside>
      </div>
    </>
  );
}

function NewForm() {
  // Pressed twice, it makes one form.
  const [id] = useState(newUuid);
  const [title, setTitle] = useState('');
  const [trouble, setTrouble] = useState('');
  const make = async (event: FormEvent) => {
    event.preventDefault();
    if (title.trim() === '') return setTrouble(speak`Give the form a name first.`);
    const made = await call<{ id: string }>('POST', '/api/forms', { id, title }).catch(() => null);
    if (made?.ok) return location.assign(`/forms/${made.value.id}`);
    setTrouble(made === null ? speak`The server cannot be reached; nothing was made.` : made.error.title);
  };
  return (
    <form onSubmit={(event) => void make(event)} className="margin-part first">
      <h2 id="new" className="margin-title">
        <FilePlus2 size={16} aria-hidden />
        {speak`New form`}
      </h2>
      <label htmlFor="title" className="mb-1 block text-[14px]">{speak`What is it called?`}</label>
      <input
        id="title"
        className="box"
        maxLength={200}
        placeholder={speak`Tool loan`}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
      <button type="submit" className="button button-dark mt-2.5">{speak`Make the form`}</button>
    </form>
  );
}
