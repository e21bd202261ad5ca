import type { CalculatedQuestion } from '../../core/form/design';
import { rulesIn } from '../../core/form/design';
import { filledBy } from '../../core/form/filled-by-rules';
import { beginFilling, fillBy, leaveFilling } from '../../core/form/rule-edits';
import { newShortId } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const OWN = 'own';
const NEW = 'new';

/** Whether a calculated answer comes from its own expression, or from a table of rules. */
export function FilledBy({ bench, question }: { bench: Workbench; question: CalculatedQuestion }) {
  const { design } = bench;
  const table = filledBy(design, question.id);
  const rules = rulesIn(design);
  const choose = (picked: string) => {
    if (picked === OWN) return bench.edit((now) => leaveFilling(now, question.id));
    if (picked !== NEW) return bench.edit((now) => fillBy(now, question.id, picked));
    const ids = {
      table: newShortId(),
      row: newShortId(),
      label: speak`Rules for ${question.label}`.slice(0, limits.label),
    };
    return bench.edit((now) => beginFilling(now, question, ids));
  };
  return (
    <>
      <Sentence>{speakIn`It is worked out by ${(
        <Select
          label={speak`By what it is worked out`}
          value={table?.id ?? OWN}
          choices={[
            { value: OWN, label: speak`this expression` },
            ...rules.map(({ id, label }) => ({ value: id, label: speak`the rules “${label}”` })),
            ...(rules.length < limits.ruleTables
              ? [{ value: NEW, label: speak`rules, in a table of their own` }]
              : []),
          ]}
          onChange={choose}
        />
      )}`}</Sentence>
      {table !== undefined && (
        <p className="quiet mb-1.5 text-[14px]">{speakIn`They stand on the ${(<a href="?face=approve">{speak`Approve`}</a>)} face, with their rows. Where they do not say, it is:`}</p>
      )}
    </>
  );
}
