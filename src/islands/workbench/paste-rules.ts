import { conditionDomain } from '../../core/form/rule-conditions';
import { changeRules } from '../../core/form/rule-edits';
import { newShortId } from '../../core/kernel/ids';
import type { RuleTable, Whom } from '../../core/rules/rules';
import { pastedRules } from '../../core/wording/pasted-rules';
import { blockOf } from '../kit/clipboard-block';
import { sayWith } from '../kit/say';
import type { Workbench } from './use-workbench';
import { askedOf, whomChoices } from './whom-choices';
import { speak } from '../../core/wording/speak';

/** Puts a block from a spreadsheet over a table of rules, as one edit. */
export async function pasteRules(
  bench: Workbench,
  table: RuleTable,
  at: readonly [row: string, condition: string],
  text: string,
): Promise<void> {
  const { design, tables } = bench;
  const choices = whomChoices(bench);
  const whom = (name: string): Whom | 'nobody' | null => {
    if (/^nobody$/i.test(name)) return 'nobody';
    const low = name.toLowerCase();
    const found = choices.find(({ label, short = label }) =>
      [label, short, label.replace(/^group /, '')].some((one) => one.toLowerCase() === low),
    );
    return found === undefined ? null : askedOf([found.value], bench);
  };
  const conditions = new Map(table.conditions.map((one) => [one.id, conditionDomain(design, tables, one)]));
  const { table: made, unknown } = pastedRules(table, at, await blockOf(text), {
    scope: bench.scope(),
    known: (id) => conditions.get(id) ?? null,
    whom,
    newId: newShortId,
  });
  bench.edit((now) => changeRules(now, table.id, () => made));
  if (unknown.length > 0)
    sayWith(speak`Not known here, and left out: ${unknown.join(', ')}`, speak`All right`, () => undefined);
}
