import { Pencil, Redo2, Undo2 } from '../kit/icons';
import { useEffect, useState } from 'react';
import type { WorkbenchData } from '../../contract/answers-from-server';
import { Root } from '../kit/Root';
import { KeptWords } from '../kit/KeptWords';
import Toasts from '../kit/Toasts';
import { ApproveFace } from './ApproveFace';
import { AskFace } from './AskFace';
import { CheckFace } from './CheckFace';
import { RehearseFace } from './RehearseFace';
import { ReleaseFace } from './ReleaseFace';
import { SettingFinder } from './SettingFinder';
import { StoreFace } from './StoreFace';
import { useUndoKeys } from './use-design';
import { useWorkbench, type Workbench } from './use-workbench';
import { speak, spoken } from '../../core/wording/speak';

const faces = spoken(
  () =>
    [
      { key: 'ask', words: speak`Ask`, Face: AskFace },
      { key: 'check', words: speak`Check`, Face: CheckFace },
      { key: 'approve', words: speak`Approve`, Face: ApproveFace },
      { key: 'store', words: speak`Store`, Face: StoreFace },
      { key: 'rehearse', words: speak`Rehearse`, Face: RehearseFace },
      { key: 'release', words: speak`Release`, Face: ReleaseFace },
    ] as const,
);

export default function WorkbenchView({ initial, startFace }: { initial: WorkbenchData; startFace: string }) {
  return (
    <Root>
      <Bench initial={initial} startFace={startFace} />
      <Toasts />
    </Root>
  );
}

function Bench({ initial, startFace }: { initial: WorkbenchData; startFace: string }) {
  const bench = useWorkbench(initial);
  const [faceKey, setFace] = useState(faces().some(({ key }) => key === startFace) ? startFace : 'ask');
  useEffect(() => history.replaceState(null, '', `?face=${faceKey}`), [faceKey]);
  useUndoKeys(bench);
  const others = [...new Set([...bench.others.values()].flat())];
  const { Face } = faces().find(({ key }) => key === faceKey) ?? faces()[0];
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5">
        <div className="min-w-0 flex-1 max-sm:basis-full">
          <p className="quiet">
            <a href="/forms" className="crumb">{speak`Forms`}</a>
          </p>
          <div className="flex flex-wrap items-center gap-3">
            <h1 className="max-w-full min-w-0 text-[23px]">
              <TitleInput bench={bench} />
            </h1>
            <ReleaseTag bench={bench} />
          </div>
        </div>
        <div className="flex flex-wrap items-center gap-3">
          {others.length > 0 && (
            <span
              role="status"
              className="tag bg-plum-soft text-plum"
            >{speak`${others.join(', ')} ${others.length === 1 ? speak`designs` : speak`design`} it too`}</span>
          )}
          <KeptWords keeping={bench.keeping} keep={bench.keep} />
          <button
            type="button"
            className="button"
            disabled={!bench.canUndo}
            title={bench.undoing}
            onClick={bench.undo}
          >
            <Undo2 size={15} aria-hidden />
            {speak`Undo`}
          </button>
          <button
            type="button"
            className="button"
            disabled={!bench.canRedo}
            title={bench.redoing}
            aria-label={speak`Do it again`}
            onClick={bench.redo}
          >
            <Redo2 size={15} aria-hidden />
          </button>
          {faceKey !== 'release' && (
            <button
              type="button"
              className="button button-dark"
              onClick={() => setFace(faceKey === 'rehearse' ? 'release' : 'rehearse')}
            >
              {faceKey === 'rehearse' ? speak`Release` : speak`Rehearse`}
            </button>
          )}
        </div>
      </div>
      <nav
        aria-label={speak`Faces of the form`}
        className="mt-2 mb-3.5 flex flex-wrap border-b-2 border-slate-200"
      >
        {faces().map(({ key, words }, i) => (
          <button
            key={key}
            type="button"
            aria-current={faceKey === key ? 'step' : undefined}
            onClick={() => setFace(key)}
            className={`-mb-0.5 flex items-center gap-2 border-b-2 px-3.5 py-2 ${faceKey === key ? 'border-ink font-semibold' : 'border-transparent text-slate-700 hover:border-slate-400'}`}
          >
            <span className="font-mono text-[13px] text-slate-600" aria-hidden>
              {i + 1}
            </span>
            {words}
          </button>
        ))}
        <SettingFinder bench={bench} faces={faces()} goTo={setFace} />
      </nav>
      <div onBlur={bench.pause}>
        <Face bench={bench} goTo={setFace} />
      </div>
    </>
  );
}

function TitleInput({ bench }: { bench: Workbench }) {
  return (
    <input
      aria-label={speak`Title of the form`}
      className="field-sizing-content max-w-full min-w-40 rounded border border-transparent bg-transparent hover:border-slate-300"
      maxLength={200}
      value={bench.design.title}
      onChange={(event) => bench.edit((design) => ({ ...design, title: event.target.value }))}
    />
  );
}

function ReleaseTag({ bench }: { bench: Workbench }) {
  const [newest] = bench.data.releases;
  const edited = newest === undefined || newest.edited || bench.hasEdited;
  if (!edited)
    return (
      <span className="tag bg-lichen-soft text-lichen-deep">{speak`Release ${newest.number} is live`}</span>
    );
  return (
    <span className="tag bg-ochre-soft text-ochre">
      <Pencil size={14} aria-hidden />
      {newest === undefined
        ? speak`Not released yet`
        : speak`Edits not released · release ${newest.number} is live`}
    </span>
  );
}
