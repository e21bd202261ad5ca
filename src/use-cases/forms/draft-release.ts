import type { Catalogue } from '../../core/catalogue/catalogue';
import { designIssues } from '../../core/form/design-issues';
import { writesOf } from '../../core/form/further-writes';
import type { FormDesign } from '../../core/form/design';
import type { Issue } from '../../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { tablesOf } from '../../core/storage/tables-of';
import type { TableChange } from '../../core/table/change';
import { planTables } from '../../core/table/plan';
import type { Tx } from '../../data/connect';
import { liveRelease, type FormRow, type ReleaseRow } from '../../data/system/forms';
import { instantOf, type Context } from '../workspace/asking';
import { designedForm } from './edit-form';
import { rightsOfRelease } from './rights-of-release';

/** A draft as if it were released, with what that would do to the tables. */
export interface DraftRelease {
  readonly form: FormRow;
  /** The draft under the live release, if there is one: what may be read and written is asked of that. */
  readonly release: ReleaseRow;
  readonly live: ReleaseRow | null;
  readonly plan: readonly TableChange[];
}

/** The draft, where it could be released by whoever asks; what keeps it from that comes back as issues. */
export async function draftRelease(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  id: string,
): Promise<Result<DraftRelease, Refusal>> {
  const form = await designedForm(tx, catalogue, context, id);
  if (!form.ok) return form;
  const looked = lookedOver(form.value, catalogue);
  const { design } = looked;
  if (!looked.plan.ok) return fail(invalid(...looked.plan.error));
  // A rehearsal reads and writes nothing that a release by the same person could not.
  const rights = await rightsOfRelease(tx, catalogue, {
    formId: id,
    person: context.person.id,
    design,
    allow: [...writesOf(design).keys()],
  });
  if (rights.issues.length > 0) return fail(invalid(...rights.issues));
  const live = await liveRelease(tx, catalogue, id);
  const asKept = { ...form.value, design };
  return ok({ form: asKept, live, plan: looked.plan.value, release: asRelease(asKept, live, context) });
}

interface LookedOver {
  readonly version: number;
  readonly design: FormDesign;
  readonly plan: Result<readonly TableChange[], readonly Issue[]>;
}

/**
 * A draft is rehearsed with every few letters that are typed, and it is looked over and compiled once for
 * each version of it: so the design of that version is kept as the very same object (see
 * `compiled-release.ts`), for as long as the catalogue is.
 */
const kept = new WeakMap<Catalogue, Map<string, LookedOver>>();

function lookedOver({ id, version, design }: FormRow, catalogue: Catalogue): LookedOver {
  const forms = kept.get(catalogue) ?? new Map<string, LookedOver>();
  kept.set(catalogue, forms);
  const known = forms.get(id);
  if (known?.version === version) return known;
  const { tables, people, groups } = catalogue;
  const issues = designIssues(design, tables, new Set([...people.keys(), ...groups.keys()]));
  const plan = planTables([...tables.values()], tablesOf(design));
  const found = plan.ok ? issues : [...issues, ...plan.error];
  const looked = { version, design, plan: plan.ok && found.length === 0 ? plan : fail(found) };
  forms.set(id, looked);
  return looked;
}

const asRelease = (form: FormRow, live: ReleaseRow | null, { person, now }: Context): ReleaseRow => ({
  id: live?.id ?? '',
  formId: form.id,
  number: (live?.number ?? 0) + 1,
  design: form.design,
  releasedBy: person.id,
  releasedAt: now,
  formVersion: form.version,
  note: '',
});

/** Whoever it is rehearsed as, at the moment it is rehearsed at. */
export function rehearsing(
  catalogue: Catalogue,
  context: Context,
  { as, at }: { readonly as: string; readonly at: string | null },
): Result<Context, Refusal> {
  const person = catalogue.people.get(as);
  if (person === undefined) return fail(notFound('person'));
  return ok({ person, now: at === null ? context.now : instantOf(catalogue.workspace, at) });
}
