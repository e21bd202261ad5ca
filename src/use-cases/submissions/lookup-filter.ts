import type { Catalogue } from '../../core/catalogue/catalogue';
import { SENDER } from '../../core/expression/person';
import type { Expression } from '../../core/expression/tree';
import { isRecord, type Value } from '../../core/expression/value';
import type { Raw } from '../../core/form/answers';
import { emptyCells, readInto } from '../../core/form/cells';
import type { CompiledForm } from '../../core/form/compile-form';
import type { FieldQuestion, LookupQuestion } from '../../core/form/design';
import { labelOf } from '../../core/form/line';
import { answersRead, fitsId } from '../../core/form/lookup-filter';
import { isUuid } from '../../core/kernel/ids';
import type { Issue } from '../../core/kernel/issue';
import { ok, type Result } from '../../core/kernel/result';
import type { Condition } from '../../data/runtime/records/filter-sql';
import { pickFilterSql } from '../../data/runtime/records/pick-filter-sql';
import { localTime, type Context } from '../workspace/asking';

/** The condition of what a lookup offers, with what is answered now; and what is to be answered before it can be told. */
export function lookupFilter(
  catalogue: Catalogue,
  context: Context,
  form: CompiledForm,
  question: LookupQuestion,
  given: Readonly<Record<string, Raw>>,
  formula: string = fitsId(question.id),
): Result<{ where: Condition | null; waitsFor: string[] }, Issue[]> {
  const tree = form.formulas.find(({ id }) => id === formula)?.tree ?? null;
  const table = catalogue.tables.get(question.table);
  if (tree === null || table === undefined) return ok({ where: null, waitsFor: [] });
  const values = valuesOf(form, tree, given);
  const now = localTime(catalogue.workspace, context.now);
  const where = pickFilterSql(tree, table, catalogue.tables, {
    today: now.slice(0, 10),
    now,
    answers: new Map([...values, [SENDER, { id: context.person.id, title: '', values: {} }]]),
  });
  if (!where.ok) return where;
  const waitsFor = [...values].flatMap(([id, value]) => (value === null ? [labelOf(form.design, id)] : []));
  return ok({ where: where.value, waitsFor });
}

/**
 * What was sent as answers, read by their questions; what cannot be read is empty. Which record a lookup
 * names is asked of the database, under the policies of its table.
 */
function valuesOf(
  { fields }: CompiledForm,
  tree: Expression,
  given: Readonly<Record<string, Raw>>,
): Map<string, Value> {
  return new Map(
    answersRead(tree)
      .filter((id) => id !== SENDER)
      .map((id) => {
        const question = fields.get(id)?.question;
        return [id, question === undefined ? null : valueOf(question, given[id] ?? null)];
      }),
  );
}

function valueOf(question: FieldQuestion, raw: Raw): Value {
  if (question.kind === 'lookup')
    return typeof raw === 'string' && isUuid(raw) ? { id: raw, title: '', values: {} } : null;
  const cells = emptyCells();
  readInto(cells, question, raw, new Map());
  const value = cells.values.get(question.id) ?? null;
  return isRecord(value) ? null : value;
}
