import { changeRules, removeCondition } from '../../core/form/rule-edits';
import { rulesIn } from '../../core/form/design';
import { ExpressionInput } from '../kit/ExpressionInput';
import { Trash2 } from '../kit/icons';
import { Troubles } from './Troubles';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

export interface ConditionInHand {
  readonly table: string;
  readonly condition: string;
}

interface Props {
  readonly bench: Workbench;
  readonly inHand: ConditionInHand;
  readonly onLeave: () => void;
}

/** What the cells below a condition are tests of. */
export function RuleConditionMargin({ bench, inHand, onLeave }: Props) {
  const table = rulesIn(bench.design).find(({ id }) => id === inHand.table);
  const condition = table?.conditions.find(({ id }) => id === inHand.condition);
  if (table === undefined || condition === undefined) return null;
  return (
    <section className="margin-part first">
      <h2 className="margin-title">{speak`What a column of ${table.label} looks at`}</h2>
      <ExpressionInput
        key={condition.id}
        label={speak`What it looks at`}
        stored={condition.expression}
        scope={bench.scope()}
        example="total"
        onChange={(expression) =>
          bench.edit((design) =>
            changeRules(design, table.id, (now) => ({
              ...now,
              conditions: now.conditions.map((one) =>
                one.id === condition.id ? { ...one, expression } : one,
              ),
            })),
          )
        }
      />
      <Troubles besideEditor bench={bench} id={condition.id} />
      <p className="mt-2 flex gap-2">
        <button
          type="button"
          className="button-plain text-rust!"
          onClick={() => {
            onLeave();
            bench.edit((design) =>
              changeRules(design, table.id, (now) => removeCondition(now, condition.id)),
            );
          }}
        >
          <Trash2 size={14} aria-hidden />
          {speak`Take the condition out`}
        </button>
        <button type="button" className="button-plain" onClick={onLeave}>{speak`Done`}</button>
      </p>
    </section>
  );
}
