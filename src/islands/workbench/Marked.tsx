import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

/** That something differs from what colleagues fill now. Nothing before the first release. */
export function Marked({ bench, id }: { bench: Workbench; id: string }) {
  const mark = bench.marks.get(id);
  if (mark === undefined) return null;
  return (
    <mark
      title={speak`since the live release`}
      className="ml-2 rounded-sm bg-marker-soft px-1 font-sans text-[12px] font-normal text-slate-700"
    >
      {mark}
    </mark>
  );
}
