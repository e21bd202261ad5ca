import { may, type Catalogue } from '../../core/catalogue/catalogue';
import type { FormDesign } from '../../core/form/design';
import { writesOf } from '../../core/form/further-writes';
import { issue, type Issue } from '../../core/kernel/issue';
import type { WriteUse } from '../../core/storage/further-write';
import { tablesOf } from '../../core/storage/tables-of';
import type { Tx } from '../../data/connect';
import { formsWritingTo, type WritesTo } from '../../data/runtime/tables/table-rights';
import { lookupsOf } from '../submissions/pick-sources';
import { speak } from '../../core/wording/speak';

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
  readonly ask: readonly WritesTo[];
}

/**
 * A release asks rights on every table it touches. It may pick from tables whose records its releaser may
 * offer, and write to tables that are its own, new, or opened to it by those who design them: a table decides
 * how it may be filled.
 */
export async function rightsOfRelease(
  tx: Tx,
  catalogue: Catalogue,
  { formId, person, design, allow }: Releasing,
): Promise<RightsOfRelease> {
  const there = catalogue.tables;
  const issues: Issue[] = [];
  const ask: WritesTo[] = [];
  for (const { question } of lookupsOf(design))
    if (there.has(question.table) && !may(catalogue, person, 'pick', question.table))
      issues.push(issue('table-no-pick', [question.id], { label: question.label }));
  const parents = new Map(tablesOf(design).map(({ id, parent }) => [id, parent]));
  for (const [id, uses] of writesOf(design)) {
    const table = there.get(id);
    if (table === undefined) continue;
    const at = ['store', table.id];
    const facts = {
      table: may(catalogue, person, 'see', table.id) ? table.label : speak`a table that is not shown to you`,
    };
    if (parents.has(id) && table.parent !== parents.get(id)) {
      issues.push(issue('table-of-another', at, facts));
      continue;
    }
    const forms = await formsWritingTo(tx, table.id);
    const own = forms.find((one) => one.id === formId && one.state === 'allowed');
    const more = uses.filter((use) => own?.covers.includes(use) !== true);
    if (more.length === 0) continue;
    const others = forms.filter((one) => one.id !== formId && one.state === 'allowed');
    if (!may(catalogue, person, 'design', table.id)) {
      ask.push({ table: table.id, uses: more });
      issues.push(issue('table-not-open', at, facts));
    } else if ((others.length > 0 || !more.includes('write')) && !allow.includes(table.id))
      issues.push(wayIn(at, facts.table, { more, others: others.map(({ title }) => title) }));
  }
  return { issues, ask };
}

/** A table that is written to in one way more, and its designer releases: said outright, so that it is no accident. */
const wayIn = (
  at: Issue['path'],
  table: string,
  { more, others }: { readonly more: readonly WriteUse[]; readonly others: readonly string[] },
): Issue =>
  more.includes('write')
    ? issue('table-way-in', at, { table, others: others.join(', ') })
    : issue('table-written-beside', at, {
        table,
        adds: more.includes('add'),
        changes: more.includes('change'),
      });
