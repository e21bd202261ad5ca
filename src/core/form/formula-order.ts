import { issue, type Issue } from '../kernel/issue';
import { formulaPath, type Formula } from './formula';
import { speak } from '../wording/speak';

/** Depth first, so that what is read comes first; a formula met again while it is being placed closes a circle, which is named. */
export function inOrder(formulas: readonly Formula[], issues: Issue[]): Formula[] {
  const byId = new Map(formulas.map((formula) => [formula.id, formula]));
  const done = new Set<string>();
  const ordered: Formula[] = [];
  const place = (formula: Formula, open: readonly string[]): void => {
    if (done.has(formula.id)) return;
    if (open.includes(formula.id)) {
      issues.push(
        issue('circular', formulaPath(formula), {
          circle: circle([...open.slice(open.indexOf(formula.id)), formula.id], byId),
        }),
      );
      done.add(formula.id);
      return;
    }
    for (const id of formula.reads) {
      const read = byId.get(id);
      if (read !== undefined) place(read, [...open, formula.id]);
    }
    if (!done.has(formula.id)) ordered.push(formula);
    done.add(formula.id);
  };
  for (const formula of formulas) place(formula, []);
  return ordered;
}

const circle = (ids: readonly string[], byId: ReadonlyMap<string, Formula>): string =>
  ids.map((id) => nameOf(byId.get(id))).join(' → ');

function nameOf(formula: Formula | undefined): string {
  const what = formula?.what;
  switch (what?.t) {
    case 'calculated':
    case 'following':
      return what.question.label;
    case 'total':
      return what.total.label;
    case 'starts':
      return speak`what ${what.group.label} begin with`;
    case 'fits':
      return speak`what ${what.question.label} offers`;
    case 'check':
      return what.check.message;
    case 'asked':
      return speak`whether “${'title' in what.of ? what.of.title : what.of.label}” is asked`;
    case 'required':
      return speak`whether “${what.of.label}” must be filled`;
    case 'rules':
    case 'fill':
      return speak`the rules “${what.table.label}”`;
    default:
      return '';
  }
}
