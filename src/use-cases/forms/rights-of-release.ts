import { may, type Catalogue } from '../../core/catalogue/catalogue';
import type { FormDesign } from '../../core/form/design';
import { issue, type Issue } from '../../core/kernel/issue';
import { tablesOf } from '../../core/storage/tables-of';
import type { Tx } from '../../data/connect';
import { formsWritingTo } from '../../data/runtime/tables/table-rights';
import { lookupsOf } from '../submissions/pick-sources';

interface Releasing {
  readonly formId: string;
  /** Who releases it. */
  readonly person: string;
  readonly design: FormDesign;
  /** Tables whose designer says in this very request that the form may write to them. */
  readonly allow: readonly string[];
}

export interface RightsOfRelease {
  readonly issues: readonly Issue[];
  /** Tables whose designers have to be asked. */
  readonly ask: readonly string[];
}

/**
 * A release asks rights on every table it touches. It may pick from tables whose records its releaser may offer, and write to tables that are its own,
 * new, or opened to it by those who design them: a table decides how it may be filled.
 */
export async function rightsOfRelease(
  tx: Tx,
  catalogue: Catalogue,
  { formId, person, design, allow }: Releasing,
): Promise<RightsOfRelease> {
  const there = catalogue.tables;
  const issues: Issue[] = [];
  const ask: string[] = [];
  for (const { question } of lookupsOf(design))
    if (there.has(question.table) && !may(catalogue, person, 'pick', question.table))
      issues.push(issue('table-no-pick', [question.id], { label: question.label }));
  for (const wanted of tablesOf(design)) {
    const table = there.get(wanted.id);
    if (table === undefined) continue;
    const at = ['store', table.id];
    const facts = {
      table: may(catalogue, person, 'see', table.id) ? table.label : 'a table that is not shown to you',
    };
    if (table.parent !== wanted.parent) {
      issues.push(issue('table-of-another', at, facts));
      continue;
    }
    const forms = await formsWritingTo(tx, table.id);
    if (forms.some(({ id, state }) => id === formId && state === 'allowed')) continue;
    const others = forms.filter(({ id, state }) => id !== formId && state === 'allowed');
    if (!may(catalogue, person, 'design', table.id)) {
      ask.push(table.id);
      issues.push(issue('table-not-open', at, facts));
    } else if (others.length > 0 && !allow.includes(table.id))
      issues.push(
        issue('table-way-in', at, { ...facts, others: others.map(({ title }) => title).join(', ') }),
      );
  }
  return { issues, ask };
}
