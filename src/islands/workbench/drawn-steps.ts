import type { DrawnStep } from '../../core/approval/drawing';
import { pickedOf, pickedSentence } from '../../core/check/pick';
import { toShown } from '../../core/expression/stored-text';
import type { Scope } from '../../core/expression/type';
import { rulesIn } from '../../core/form/design';
import { rulesFor } from '../../core/rules/ruled-steps';
import { askedWords } from '../../core/wording/step-sentence';
import type { Choice } from '../kit/Select';
import type { Workbench } from './use-workbench';
import { stepWhomChoices, stepWhomOf } from './whom-choices';
import { speak } from '../../core/wording/speak';

/** The steps of a form as its path is drawn, with whom they ask and where in words. */
export function drawnSteps(bench: Workbench): DrawnStep[] {
  const { design } = bench;
  const choices = stepWhomChoices(bench);
  const scope = bench.scope();
  return design.steps.map((step) => {
    const names = stepWhomOf(step, bench).map(
      (value) => nameOf(choices.find((one) => one.value === value)) ?? 'somebody',
    );
    const rules = rulesFor(rulesIn(design), step.id).filter(({ rows }) =>
      rows.some(({ gives }) => gives.some((one) => one.step === step.id && one.nobody === true)),
    );
    const where = [
      ...(step.when === undefined ? [] : [conditionWords(step.when, scope)]),
      ...rules.map(({ label }) => speak`${label} say so`),
    ];
    return {
      id: step.id,
      label: step.label,
      ...(step.beside === true && { beside: true as const }),
      says: speak`Asks ${askedWords(step, names)}`,
      where: where.length === 0 ? null : where.join(speak` and `),
    };
  });
}

const nameOf = (choice: Choice | undefined): string | undefined => choice?.short ?? choice?.label;

/** As it would be said, where it is picked; as it is written otherwise. */
function conditionWords(stored: string, scope: Scope): string {
  const text = toShown(stored, scope);
  const picked = pickedOf(text, scope);
  return picked === null ? text : pickedSentence(picked, scope, 'is');
}
