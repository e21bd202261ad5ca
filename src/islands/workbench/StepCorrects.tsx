import { correctable, correctsOf } from '../../core/approval/corrected';
import { type ApprovalStep } from '../../core/form/design';
import { lineNumbers } from '../../core/form/numbered-lines';
import { Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly step: ApprovalStep;
  readonly change: (part: Partial<ApprovalStep>) => void;
}

/** Which answers whoever decides a step may put right instead of sending them back. */
export function StepCorrects({ bench, step, change }: Props) {
  const numbers = lineNumbers(bench.design);
  const choices = correctable(bench.design).map(({ id, label }) => ({
    value: id,
    label: `${numbers.get(id) ?? ''} ${label}`.trim(),
  }));
  if (choices.length === 0) return null;
  return (
    <Sentence>{speakIn`They may correct ${(
      <Several
        label={speak`What they may correct`}
        values={correctsOf(bench.design, step)}
        none="nothing"
        choices={choices}
        onChange={(values) => change({ corrects: values.length === 0 ? undefined : values })}
      />
    )}`}</Sentence>
  );
}
