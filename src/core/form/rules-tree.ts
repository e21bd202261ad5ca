import { read, readTests } from '../expression/read';
import { storedScope, testsToShown, toShown } from '../expression/stored-text';
import type { Expression } from '../expression/tree';
import { listOf, YES_NO, type Scope } from '../expression/type';
import { under, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { testOf, type Rule, type RuleTable } from '../rules/rules';
import { readStored } from './scope';

const NOWHERE = { from: 0, to: 0 };
const ALWAYS: Expression = { op: 'literal', value: true, type: YES_NO, span: NOWHERE };

/**
 * A table of rules as one expression: of each row in order, whether it fits. Paths of issues: `['rules',
 * table, condition]`, and `['rules', table, row, condition]` for a cell, with spans in the text as it is
 * shown.
 */
export function rulesTree(table: RuleTable, scope: Scope): Result<Expression, Issue[]> {
  const issues: Issue[] = table.conditions.flatMap(({ id, expression }) => {
    const tree = readStored(expression, scope, ['rules', table.id, id]);
    return tree.ok ? [] : tree.error;
  });
  const items = table.rows.map((row) => {
    const fits = rowTree(table, row, scope);
    if (!fits.ok) issues.push(...fits.error);
    return fits.ok ? fits.value : ALWAYS;
  });
  return issues.length > 0 ? fail(issues) : ok({ op: 'list', items, type: listOf(YES_NO), span: NOWHERE });
}

function rowTree(table: RuleTable, row: Rule, scope: Scope): Result<Expression, Issue[]> {
  let whole: Expression | null = null;
  const issues: Issue[] = [];
  for (const { id, expression } of table.conditions) {
    const cell = readStoredTests(testOf(row, id), scope, expression);
    if (!cell.ok) issues.push(...under(['rules', table.id, row.id, id], cell.error));
    else if (whole === null) whole = cell.value;
    else whole = { op: 'and', left: whole, right: cell.value, type: YES_NO, span: NOWHERE };
  }
  return issues.length > 0 ? fail(issues) : ok(whole ?? ALWAYS);
}

/** Tests as they are kept; issues have their spans in the text as it is shown. */
function readStoredTests(stored: string, scope: Scope, of: string): Result<Expression, Issue[]> {
  const tree = readTests(stored, storedScope(scope), of);
  if (tree.ok || !read(of, storedScope(scope)).ok) return tree;
  const shown = readTests(testsToShown(stored, scope, of), scope, toShown(of, scope));
  return shown.ok ? tree : shown;
}
