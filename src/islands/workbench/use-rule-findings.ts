import { useDeferredValue, useMemo } from 'react';
import { conditionDomain, type ConditionDomain } from '../../core/form/rule-conditions';
import { ruleFindings, type RuleFindings, type Where } from '../../core/rules/findings';
import type { RuleTable } from '../../core/rules/rules';
import { toShown } from '../../core/expression/stored-text';
import { testWords } from '../../core/wording/test-words';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

/** What is found by reading a table, and where in words; it follows what is typed. */
export function useRuleFindings(
  { design, tables, scope }: Workbench,
  table: RuleTable,
): { readonly found: RuleFindings; readonly words: (where: Where) => string } {
  const settled = useDeferredValue(table);
  const domains = useMemo(() => {
    const told = settled.conditions.map((one) => [one.id, conditionDomain(design, tables, one)] as const);
    return new Map(told.filter((one): one is [string, ConditionDomain] => one[1] !== null));
  }, [design, tables, settled.conditions]);
  const found = useMemo(() => ruleFindings(settled, domains), [settled, domains]);
  const words = (where: Where): string =>
    settled.conditions
      .flatMap(({ id, expression }) => {
        const [test, domain] = [where[id], domains.get(id)];
        if (test === undefined || domain === undefined) return [];
        return [`${toShown(expression, scope())} ${testWords(test, domain) ?? test}`];
      })
      .join(speak` and `) || 'anything';
  return { found, words };
}
