import { drawnPath } from '../../core/approval/drawing';
import { toShown } from '../../core/expression/stored-text';
import { rulesIn } from '../../core/form/design';
import { rulesFor } from '../../core/rules/ruled-steps';
import { askedWords } from '../../core/wording/step-sentence';
import { Download } from '../kit/icons';
import { saveFile } from '../kit/save-file';
import type { Workbench } from './use-workbench';
import { stepWhomChoices, stepWhomOf } from './whom-choices';

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
        Take the path out as BPMN
      </button>
    </p>
  );
}

function drawnSteps(bench: Workbench) {
  const { design } = bench;
  const choices = stepWhomChoices(bench);
  const scope = bench.scope();
  return design.steps.map((step) => {
    const names = stepWhomOf(step, bench).map(
      (value) => choices.find((one) => one.value === value)?.label ?? 'somebody',
    );
    const rules = rulesFor(rulesIn(design), step.id).filter(({ rows }) =>
      rows.some(({ gives }) => gives.some((one) => one.step === step.id && one.nobody === true)),
    );
    const where = [
      ...(step.when === undefined ? [] : [toShown(step.when, scope)]),
      ...rules.map(({ label }) => `${label} say so`),
    ];
    return {
      id: step.id,
      label: step.label,
      ...(step.beside === true && { beside: true as const }),
      says: `Asks ${askedWords(step, names)}`,
      where: where.length === 0 ? null : where.join(' and '),
    };
  });
}
