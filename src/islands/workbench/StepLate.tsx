import { GO_ON, type ApprovalStep } from '../../core/form/design';
import { counted } from '../../core/wording/numbers';
import { personChoices } from '../kit/person-choices';
import { Select, type Choice } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly step: ApprovalStep;
  readonly change: (part: Partial<ApprovalStep>) => void;
}

/** What happens about the time a step has: before it is up, and after. */
export function StepLate({ bench, step, change }: Props) {
  return (
    <Sentence>{speakIn`They are reminded ${(
      <Select
        label={speak`When those who are asked are reminded`}
        value={String(step.soon ?? 0)}
        choices={soonChoices(step)}
        onChange={(value) => change({ soon: value === '0' ? undefined : Number(value) })}
      />
    )} and once it is late, ${(
      <Select
        label={speak`What happens once it is late`}
        value={step.late ?? ''}
        choices={lateChoices(step, bench)}
        onChange={(late) => change({ late: late === '' ? undefined : late })}
      />
    )}`}</Sentence>
  );
}

/** On the day it is due, and so long before. One that is chosen and lies too early stays until it is mended. */
function soonChoices({ within = 1, hours, soon = 0 }: ApprovalStep): Choice[] {
  const most = Math.min(within - 1, MOST_SOON);
  const said = (n: number): string =>
    hours === true ? counted(n, 'working hour') : counted(n, 'working day');
  const before = [...new Set([...Array.from({ length: Math.max(most, 0) }, (_, i) => i + 1), soon])]
    .filter((one) => one > 0)
    .sort((one, other) => one - other);
  return [
    { value: '0', label: speak`on the day it is due` },
    ...before.map((one) => ({
      value: String(one),
      label: speak`${said(one)} before, and on the day`,
      short: speak`${said(one)} before`,
    })),
  ];
}

const MOST_SOON = 10;

/** Who is asked once it is late: as well, or instead where all must approve. */
function lateChoices({ decide }: ApprovalStep, { data }: Workbench): Choice[] {
  const how = decide === 'all' ? speak`instead` : speak`as well`;
  return [
    { value: '', label: speak`they are told` },
    { value: GO_ON, label: speak`it goes on without them` },
    { value: 'manager', label: speak`their manager is asked ${how}` },
    ...personChoices(data.people).map(({ value, label, short = label }) => ({
      value,
      label: speak`${label} is asked ${how}`,
      short: speak`${short} is asked ${how}`,
    })),
  ];
}
