import { useEffect, useEffectEvent, useMemo, useRef, useState, type DragEvent } from 'react';
import { acceptOf } from '../../core/form/file';
import type { FieldQuestion } from '../../core/form/design';
import { newUuid } from '../../core/kernel/ids';
import { listStored, storedList } from '../../core/table/kinds/stored-list';
import { Refused } from '../kit/call';
import { FileTile, useFiles } from '../kit/FileTile';
import { Plus, X } from '../kit/icons';
import { DeviceFiles } from '../kit/device-files';
import { madeReady, upload, type Ready } from '../kit/upload';
import type { ControlProps } from './control-props';
import { controlId } from './sheet-model';
import { speak } from '../../core/wording/speak';

/** A file on its way. */
interface Coming {
  readonly id: string;
  readonly name: string;
  /** How much of it has arrived, of 1. */
  readonly part: number;
  /** Why it did not. */
  readonly trouble: string;
  readonly stop: AbortController;
}

type FilesProps = ControlProps & { question: Extract<FieldQuestion, { kind: 'files' }> };

/** Photos or files. In a rehearsal nothing is brought, for there is nothing it would belong to. */
export const FilesControl = (props: FilesProps) =>
  props.submission === 'rehearsal' ? (
    <p
      id={controlId(props.place)}
      className="quiet"
    >{speak`Photos and files are not brought in a rehearsal.`}</p>
  ) : (
    <FilesBrought {...props} />
  );

/** Photos or files: chosen, dropped, pasted, or taken by the camera of a telephone; brought while one goes on typing. */
function FilesBrought(props: FilesProps) {
  const { question, place, sheet, describedBy, invalid, onTouch, name, bare = false } = props;
  const { coming, bring, drop } = useComing(props);
  const ids = listStored(String(sheet.raw(place) ?? '')) ?? [];
  const facts = useFiles(ids);
  const [isOver, setOver] = useState(false);
  const box = useRef<HTMLInputElement>(null);
  const take = (files: FileList | null): void => {
    if (files !== null && files.length > 0) bring([...files]);
    onTouch();
  };
  const over = (on: boolean) => (event: DragEvent) => {
    event.preventDefault();
    setOver(on);
  };
  const remove = (id: string): void => {
    sheet.set(place, storedList(ids.filter((one) => one !== id)));
    props.onChange();
  };
  const left = question.most - ids.length - coming.length;
  const what = question.what === 'photos' ? 'photo' : 'file';
  return (
    <div
      id={controlId(place)}
      role="group"
      aria-label={name}
      aria-describedby={describedBy}
      className={`rounded-md ${isOver ? 'outline-2 outline-lichen outline-dashed' : ''}`}
      onDragOver={over(true)}
      onDragLeave={over(false)}
      onDrop={(event) => {
        over(false)(event);
        take(event.dataTransfer.files);
      }}
      onPaste={(event) => {
        if (event.clipboardData.files.length === 0) return;
        event.preventDefault();
        take(event.clipboardData.files);
      }}
    >
      {(ids.length > 0 || coming.length > 0) && (
        <ul className="mb-2 flex flex-wrap items-start gap-2" aria-label={speak`${name}, what is there`}>
          {ids.map((id) => (
            <FileTile key={id} id={id} facts={facts.get(id)}>
              <button
                type="button"
                aria-label={speak`Take ${facts.get(id)?.name ?? 'it'} out`}
                onClick={() => remove(id)}
                className="absolute top-1 right-1 rounded bg-slate-900/70 p-1.5 text-white hover:bg-slate-900"
              >
                <X size={14} aria-hidden />
              </button>
            </FileTile>
          ))}
          {coming.map((one) => (
            <ComingTile key={one.id} one={one} onDrop={() => drop(one.id)} />
          ))}
        </ul>
      )}
      <input
        ref={box}
        type="file"
        multiple={question.most > 1}
        accept={acceptOf(question.what)}
        className="sr-only"
        tabIndex={-1}
        aria-label={speak`${name}: choose`}
        aria-invalid={invalid}
        onChange={({ target }) => {
          take(target.files);
          // The same file may be chosen again.
          target.value = '';
        }}
      />
      {left > 0 ? (
        <button type="button" className="button" onClick={() => box.current?.click()} onBlur={onTouch}>
          <Plus size={15} aria-hidden />
          {ids.length + coming.length === 0
            ? speak`Add ${question.most > 1 ? `${what}s` : `a ${what}`}`
            : speak`Add another`}
        </button>
      ) : (
        <p className="quiet">{speak`That is as many as may be added.`}</p>
      )}
      {!bare && left > 0 && (
        <span className="quiet ml-3 max-sm:hidden">{speak`or drop or paste them here`}</span>
      )}
    </div>
  );
}

function ComingTile({ one: { name, part, trouble }, onDrop }: { one: Coming; onDrop: () => void }) {
  return (
    <li className="relative flex w-32 flex-col justify-end rounded-md border border-dashed border-slate-400 p-1.5 text-[12px]">
      <span className="truncate">{name}</span>
      {trouble === '' ? (
        <progress
          className="h-1.5 w-full accent-lichen"
          value={part}
          max={1}
          aria-label={speak`${name} is on its way`}
        />
      ) : (
        <span role="alert" className="text-rust">
          {trouble}
        </span>
      )}
      <button type="button" className="button-plain mt-1 justify-start text-[12px]" onClick={onDrop}>
        {trouble === '' ? speak`Cancel` : speak`Put away`}
      </button>
    </li>
  );
}

/** Files on their way, one after the other, so that on a slow line the first arrives soon. What the page was left with goes on. */
function useComing({
  question,
  place,
  sheet,
  formId,
  submission,
  device,
  onChange,
  onComing,
}: ControlProps & { question: Extract<FieldQuestion, { kind: 'files' }> }) {
  const [coming, setComing] = useState<readonly Coming[]>([]);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const at = place.join('/');
  const [draft, key] = [device?.draft ?? '', device?.key ?? ''];
  const kept = useMemo(() => (draft === '' ? null : new DeviceFiles(key, draft, at)), [draft, key, at]);
  const without = (id: string) => setComing((all) => all.filter((one) => one.id !== id));
  const change = (id: string, part: Partial<Coming>) =>
    setComing((all) => all.map((one) => (one.id === id ? { ...one, ...part } : one)));
  const listed = (): string[] => listStored(String(sheet.raw(place) ?? '')) ?? [];
  const bringOne = async (file: () => Promise<Ready>, { id, stop }: Coming): Promise<void> => {
    const answering = { form: formId, question: question.id, submission };
    try {
      await upload(id, await file(), answering, (part) => change(id, { part }), stop.signal);
      sheet.set(place, storedList([...listed().filter((one) => one !== id), id]));
      onChange();
      without(id);
      await kept?.clear(id);
    } catch (error) {
      if (stop.signal.aborted || error instanceof Refused) void kept?.clear(id);
      if (stop.signal.aborted) return without(id);
      change(id, {
        trouble: error instanceof Refused ? error.message : speak`It could not be brought; add it again.`,
      });
    } finally {
      onComing?.(-1);
    }
  };
  const begin = (id: string, name: string, file: () => Promise<Ready>): void => {
    const one: Coming = { id, name, part: 0, trouble: '', stop: new AbortController() };
    setComing((all) => [...all.filter((other) => other.id !== id), one]);
    onComing?.(1);
    queue.current = queue.current.then(() => bringOne(file, one));
  };
  const bring = (files: readonly File[]): void => {
    for (const file of files.slice(0, Math.max(0, question.most - listed().length - coming.length))) {
      const id = newUuid();
      begin(id, file.name, async () => {
        const ready = await madeReady(file);
        await kept?.write(id, ready);
        return ready;
      });
    }
    // The draft they belong to is found again, also where nothing has been typed yet.
    onChange();
  };
  const goOn = useEffectEvent((left: readonly { id: string; file: Ready }[]) => {
    for (const { id, file } of left)
      if (!coming.some((one) => one.id === id) && !listed().includes(id))
        begin(id, file.name, () => Promise.resolve(file));
  });
  useEffect(() => void kept?.read().then(goOn), [kept]);
  const drop = (id: string): void => {
    coming.find((one) => one.id === id)?.stop.abort();
    void kept?.clear(id);
    without(id);
  };
  return { coming, bring, drop };
}
