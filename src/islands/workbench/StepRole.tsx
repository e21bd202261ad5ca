import { toShown, toStored } from '../../core/expression/stored-text';
import type { ApprovalStep, RoleAt } from '../../core/form/design';
import { textsInAnswers } from '../../core/form/people-in-answers';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly role: RoleAt;
  readonly change: (part: Partial<ApprovalStep>) => void;
}

/** Of which group, and at which place: the section lead of Fern house. */
export function StepRole({ bench, role, change }: Props) {
  const scope = bench.scope();
  const place = toShown(role.at, scope);
  const names = textsInAnswers(scope);
  return (
    <Sentence>{speakIn`Of the group ${(
      <Select
        label={speak`Group whose people are asked by place`}
        value={role.group}
        choices={bench.data.groups.map(({ id, label }) => ({ value: id, label }))}
        onChange={(group) => change({ role: { ...role, group } })}
      />
    )} whoever is, in the directory of people, at the place in ${(
      <Select
        label={speak`Answer that says the place`}
        value={place === '' ? null : place}
        placeholder={speak`an answer`}
        choices={(names.includes(place) || place === '' ? names : [place, ...names]).map((name) => ({
          value: name,
          label: name,
        }))}
        onChange={(name) => change({ role: { ...role, at: toStored(name, scope) } })}
      />
    )}`}</Sentence>
  );
}
