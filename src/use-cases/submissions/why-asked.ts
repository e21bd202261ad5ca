import type { Told } from '../../core/approval/told';
import { whyAsked } from '../../core/approval/whom';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { rulesIn, type ApprovalStep, type FormDesign } from '../../core/form/design';
import { rulesFor } from '../../core/rules/ruled-steps';
import { rulesWords, whyAskedWords } from '../../core/wording/step-sentence';

/** Why a step asks somebody, with the rows of rules that said so; null of whom it names. */
export function whyWords(
  design: Pick<FormDesign, 'rules'>,
  step: ApprovalStep | undefined,
  who: string,
  { senderId, named, ruled }: Pick<Told, 'named' | 'ruled'> & { readonly senderId: string },
  catalogue: Catalogue,
): string | null {
  if (step === undefined) return null;
  const found = whyAsked(step, who, senderId, catalogue, named);
  const words =
    found === null ? [] : [whyAskedWords(found.why, catalogue.groups.get(found.group ?? '')?.label ?? '')];
  const rules = rulesFor(rulesIn(design), step.id).map((table) => rulesWords(table, ruled));
  return [...words, ...rules].join('; ') || null;
}
