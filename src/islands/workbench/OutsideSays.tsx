import { useState } from 'react';
import type { OutsideData, ShownOutside } from '../../contract/outside';
import { languages } from '../../core/formats/formats';
import { speak } from '../../core/wording/speak';
import { languageNames } from '../kit/FormatsWords';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { speakIn } from '../kit/speak-in';
import { sayOtherwise, type AskOutside } from './ask-outside';

/** What of our tables people outside would meet. */
export function Shows({ data, ask }: { data: OutsideData; ask: AskOutside }) {
  /** What was ticked and is not answered yet. */
  const [asked, setAsked] = useState<readonly string[] | null>(null);
  const open = asked ?? data.lookups;
  if (data.shows.length === 0) return null;
  const set = async (id: string, isOpen: boolean) => {
    const lookups = isOpen ? [...open, id] : open.filter((one) => one !== id);
    setAsked(lookups);
    await sayOtherwise(data, ask, { lookups });
    setAsked(null);
  };
  return (
    <>
      <h3 className="mt-3 mb-1 font-sans text-[15px]">{speak`What they may look up`}</h3>
      <ul className="grid gap-1.5 text-[14px]">
        {data.shows.map((one) => (
          <li key={one.id}>
            <label className="flex items-start gap-2">
              <input
                type="checkbox"
                className="mt-1 shrink-0"
                checked={open.includes(one.id)}
                onChange={(event) => void set(one.id, event.target.checked)}
              />
              <span className="min-w-0 break-words">{shownWords(one)}</span>
            </label>
          </li>
        ))}
      </ul>
    </>
  );
}

const shownWords = ({ label, table, columns, read }: ShownOutside): string =>
  speak`${label}: ${columns.join(', ') || speak`the number`} of the records of ${table}${read.length > 0 ? speak`; the form works with ${read.join(', ')} as well, which goes to their browser` : ''}`;

/** Where they are told what becomes of what they sent, besides the address they are shown. */
export function Mails({ data, ask }: { data: OutsideData; ask: AskOutside }) {
  if (data.addresses.length === 0) return null;
  return (
    <div className="mt-3">
      <Sentence>
        <Select
          label={speak`How they are told what becomes of it`}
          value={data.mailTo ?? ''}
          choices={[
            { value: '', label: speak`They get no e-mail` },
            ...data.addresses.map(({ id, label }) => ({
              value: id,
              label: speak`They get e-mails at “${label}”`,
            })),
          ]}
          onChange={(value) => void sayOtherwise(data, ask, { mailTo: value === '' ? null : value })}
        />
      </Sentence>
      <p className="quiet">{speak`When it has arrived, is sent back, accepted or declined.`}</p>
    </div>
  );
}

/** In which language the form meets them: its buttons, its words on what is wrong, and its mails. What the form asks is its designer's. */
export function Speaks({ data, ask }: { data: OutsideData; ask: AskOutside }) {
  const set = (value: string) =>
    void sayOtherwise(data, ask, { language: languages.find((one) => one === value) ?? null });
  return (
    <div className="mt-3">
      <Sentence>{speakIn`It speaks ${(
        <Select
          label={speak`Language people outside meet it in`}
          value={data.language ?? ''}
          choices={[
            { value: '', label: speak`the language of the workspace` },
            ...languages.map((one) => ({ value: one, label: languageNames[one] })),
          ]}
          onChange={set}
        />
      )}`}</Sentence>
    </div>
  );
}

/** Saved when they are left, for they are written in one go. */
export function Words({ data, ask }: { data: OutsideData; ask: AskOutside }) {
  const [welcome, setWelcome] = useState(data.welcome);
  const [thanks, setThanks] = useState(data.thanks);
  const [sites, setSites] = useState(data.origins.join('\n'));
  const origins = sites.split('\n').filter((one) => one.trim() !== '');
  const isSame =
    welcome === data.welcome && thanks === data.thanks && origins.join('\n') === data.origins.join('\n');
  const save = () => sayOtherwise(data, ask, { welcome, thanks, origins });
  return (
    <div className="mt-3 grid gap-2 text-[14px]">
      <label>
        {speak`What they read first`}
        <textarea
          rows={2}
          className="box mt-1"
          maxLength={5_000}
          value={welcome}
          onChange={(event) => setWelcome(event.target.value)}
        />
      </label>
      <label>
        {speak`What they read once it is sent`}
        <textarea
          rows={2}
          className="box mt-1"
          maxLength={5_000}
          value={thanks}
          onChange={(event) => setThanks(event.target.value)}
        />
      </label>
      <label>
        {speak`Sites that may show it in a page of theirs, one a line`}
        <textarea
          rows={sites === '' ? 1 : 2}
          className="box mt-1 font-mono text-[13px]"
          placeholder="https://garden.example"
          value={sites}
          onChange={(event) => setSites(event.target.value)}
        />
      </label>
      {!isSame && (
        <div className="flex gap-2">
          <button
            type="button"
            className="button button-go"
            onClick={() => void save()}
          >{speak`Save`}</button>
          <button
            type="button"
            className="button"
            onClick={() => {
              setWelcome(data.welcome);
              setThanks(data.thanks);
              setSites(data.origins.join('\n'));
            }}
          >{speak`Drop it`}</button>
        </div>
      )}
    </div>
  );
}
