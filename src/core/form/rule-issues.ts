import { issue, type Issue } from '../kernel/issue';
import { givesOf, saysWhom } from '../rules/rules';
import { rulesIn, type FormDesign } from './design';
import { fillingPolicies } from './filled-by-rules';
import { labelIssues } from './label-issues';

/** What keeps tables of rules from being released, but for what cannot be read. `people`: everybody and every group there is. */
export function ruleIssues(design: FormDesign, people: ReadonlySet<string>): Issue[] {
  return rulesIn(design).flatMap((table) => {
    const steps = design.steps.filter(({ id }) => table.asks.includes(id));
    return [
      ...labelIssues(table.label, ['rules', table.id]),
      ...(table.rows.length === 0 ? [issue('rules-empty', ['rules', table.id], { rules: table.label })] : []),
      ...((table.fills ?? []).length > 0 && !fillingPolicies.includes(table.hit)
        ? [issue('rules-fill-several', ['rules', table.id], { rules: table.label })]
        : []),
      ...table.rows.flatMap((row, i) =>
        steps.flatMap(({ id, label }): Issue[] => {
          const [given, path] = [givesOf(row, id), ['rules', table.id, row.id, id]];
          if (!saysWhom(given)) return [issue('rule-asks-nobody', path, { row: i + 1, step: label })];
          const known = [...given.people, ...(given.groups ?? [])].every((one) => people.has(one));
          return known ? [] : [issue('approver-unknown', path, { step: label })];
        }),
      ),
    ];
  });
}
