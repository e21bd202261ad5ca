import { may, mayForm, tablesFor } from '../../core/catalogue/catalogue';
import { openApi } from '../../core/api/open-api';
import type { ReachedTable } from '../../core/api/table-paths';
import type { JsonSchema } from '../../core/kernel/json-schema';
import type { Refusal } from '../../core/kernel/refusal';
import { ok, type Result } from '../../core/kernel/result';
import { recordJson } from '../../core/record/record-json';
import { origin } from '../../data/origin';
import { recordsAfter } from '../../data/runtime/records/records';
import { liveForms } from '../../data/system/forms';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';

/** Tables whose first record stands as an example; a token of very many is described without. */
const WITH_EXAMPLES = 40;

/** The API as OpenAPI 3.1, as far as whoever asks reaches: within their token, if they come with one. */
export function describeApi({ person }: Context): Promise<Result<JsonSchema, Refusal>> {
  return asPerson({ person: person.id }, async (tx, catalogue) => {
    const tables: ReachedTable[] = [];
    for (const table of tablesFor(catalogue, person.id, 'see')) {
      const [first] =
        tables.length < WITH_EXAMPLES ? await recordsAfter(tx, catalogue.tables, table, null, 1) : [];
      const allowed = (action: 'add' | 'change' | 'remove', outside: boolean): boolean =>
        may(catalogue, person.id, action, table.id) && (table.linked === null || outside);
      tables.push({
        table,
        add: allowed('add', table.linked?.adds ?? false),
        change: allowed('change', table.linked?.changes ?? false),
        remove: allowed('remove', false),
        example: first === undefined ? null : recordJson(table.columns, first),
      });
    }
    const forms = (await liveForms(tx, catalogue)).filter(({ formId }) =>
      mayForm(catalogue, person.id, 'fill', formId),
    );
    const title = catalogue.workspace.name;
    const follows = [...catalogue.forms.keys()].some((id) => mayForm(catalogue, person.id, 'see-all', id));
    return ok(openApi({ title, origin: origin(), tables, forms, follows }));
  });
}
