import { drawnPath } from '../../core/approval/drawing';
import { Download } from '../kit/icons';
import { saveFile } from '../kit/save-file';
import { drawnSteps } from './drawn-steps';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

/** The path as BPMN, for those who document processes. */
export function PathOut({ bench }: { readonly bench: Workbench }) {
  const takeOut = async () => {
    const { bpmnOf } = await import('./bpmn-file');
    const { design } = bench;
    const xml = await bpmnOf(design.title, drawnPath(drawnSteps(bench), design.table.label));
    saveFile(`${design.title}.bpmn`, xml);
  };
  return (
    <p className="px-4 py-3">
      <button type="button" className="button-plain" onClick={() => void takeOut()}>
        <Download size={14} aria-hidden />
        {speak`Take the path out as BPMN`}
      </button>
    </p>
  );
}
