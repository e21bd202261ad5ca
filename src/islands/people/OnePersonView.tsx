import { useId, useRef, useState } from 'react';
import type { ErasedData, FoundPerson, TakenOut } from '../../contract/one-person';
import { newUuid } from '../../core/kernel/ids';
import { showDate } from '../../core/formats/days';
import { counted } from '../../core/wording/numbers';
import { call, troubleInFull } from '../kit/call';
import { Download, Eraser, Search } from '../kit/icons';
import { Root } from '../kit/Root';
import { saveFile } from '../kit/save-file';
import { ErasePanel } from './ErasePanel';
import { FoundAbout } from './FoundAbout';
import { emptiedAtFirst, noneChosen, sizeOf, type AllChosen } from './chosen';
import { speak } from '../../core/wording/speak';

/** What is kept about one person: found by their name or address, chosen, and then taken out or erased. */
export default function OnePersonView() {
  return (
    <Root>
      <OnePerson />
    </Root>
  );
}

function OnePerson() {
  const [words, setWords] = useState('');
  const [found, setFound] = useState<FoundPerson | null>(null);
  const [chosen, setChosen] = useState<AllChosen>(noneChosen);
  const [erasing, setErasing] = useState(false);
  const work = useWork();
  const field = useId();
  const body = {
    records: [...chosen.records.values()].map(({ table, record }) => ({ table: table.id, id: record.id })),
    submissions: [...chosen.submissions.keys()],
  };
  const find = () =>
    work.attempt(async () => {
      const result = await call<FoundPerson>('POST', '/api/personal-data/found', { words });
      if (!result.ok) return troubleInFull(result.error);
      setFound(result.value);
      return null;
    });
  const takeOut = () =>
    work.attempt(async () => {
      const result = await call<TakenOut>('POST', '/api/personal-data/taken-out', body);
      if (!result.ok) return troubleInFull(result.error);
      saveFile(result.value.name, result.value.text, 'application/json');
      return null;
    });
  // One key for one erasing, however often it is sent.
  const key = useRef(newUuid());
  const erase = (columns: Readonly<Record<string, readonly string[]>>) =>
    work.attempt(async () => {
      const result = await call<ErasedData>('POST', '/api/personal-data/erased', {
        key: key.current,
        ...body,
        columns,
      });
      if (!result.ok) return troubleInFull(result.error);
      key.current = newUuid();
      work.setDone(erasedWords(result.value));
      setErasing(false);
      setChosen(noneChosen);
      setFound(null);
      return null;
    });
  const size = sizeOf(chosen);
  return (
    <section className="border-b border-slate-200 px-5 py-4" aria-label={speak`One person’s data`}>
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void find();
        }}
      >
        <label className="min-w-0 grow text-[14px]" htmlFor={field}>
          {speak`What is kept about somebody: their name, e-mail address or number`}
          <input
            id={field}
            type="search"
            className="box mt-1 block w-full"
            value={words}
            minLength={2}
            maxLength={120}
            required
            onChange={({ target }) => setWords(target.value)}
          />
        </label>
        <button type="submit" className="button" disabled={work.busy}>
          <Search size={16} aria-hidden />
          {speak`Find`}
        </button>
      </form>
      <div role="alert">{work.trouble !== '' && <p className="trouble mt-3">{work.trouble}</p>}</div>
      <div role="status">
        {work.done !== '' && <p className="mt-3 font-semibold text-lichen">{work.done}</p>}
      </div>
      {found !== null && <FoundAbout found={found} chosen={chosen} onChoose={setChosen} />}
      {size > 0 && !erasing && (
        <div className="mt-4 flex flex-wrap items-center gap-2">
          <strong>{speak`${counted(size, 'thing')} chosen`}</strong>
          <button type="button" className="button" disabled={work.busy} onClick={() => void takeOut()}>
            <Download size={16} aria-hidden />
            {speak`Take out as JSON`}
          </button>
          <button type="button" className="button" onClick={() => setErasing(true)}>
            <Eraser size={16} aria-hidden />
            {speak`Erase`}
          </button>
        </div>
      )}
      {size > 0 && erasing && (
        <ErasePanel
          chosen={chosen}
          atFirst={emptiedAtFirst(chosen)}
          busy={work.busy}
          onErase={(columns) => void erase(columns)}
          onLeave={() => setErasing(false)}
        />
      )}
    </section>
  );
}

/** One thing at a time, with what stood in its way or what was done. */
function useWork() {
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState('');
  const [done, setDone] = useState('');
  const attempt = async (what: () => Promise<string | null>) => {
    setBusy(true);
    setDone('');
    setTrouble((await what().catch(() => speak`The server cannot be reached; try again`)) ?? '');
    setBusy(false);
  };
  return { busy, trouble, done, setDone, attempt };
}

function erasedWords({ records, submissions, kept }: ErasedData): string {
  const erased =
    records + submissions === 0
      ? speak`Nothing was erased.`
      : speak`Erased from ${counted(records, 'record')} and ${counted(submissions, 'submission')}.`;
  return [
    erased,
    ...kept.map(
      ({ number, table, until, why }) =>
        speak`${number} of ${table} is kept until ${showDate(until)} because of ${why}.`,
    ),
  ].join(' ');
}
