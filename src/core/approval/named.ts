import { isRecord } from '../expression/value';
import type { Sheet } from '../form/sheet';
import { whomId } from '../form/written-expressions';
import type { Named } from './whom';

/** Whom the answers of a sheet name, of each step that asks by them. Nobody where that cannot be told. */
export const namedIn = (sheet: Sheet): Named =>
  Object.fromEntries(
    sheet.form.design.steps.flatMap(({ id, named }) => {
      const value = named === undefined ? null : sheet.value([whomId(id)]);
      return isRecord(value) ? [[id, [value.id]]] : [];
    }),
  );
