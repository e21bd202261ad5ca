import type { FormDesign } from '../../src/core/form/design';
import { compileForm, type CompiledForm } from '../../src/core/form/compile-form';
import type { Answers } from '../../src/core/form/answers';
import { recordKey, type Records } from '../../src/core/form/cells';
import { Sheet } from '../../src/core/form/sheet';
import { worldOf } from './workspace';
import Big from 'big.js';
import type { RecordValue } from '../../src/core/expression/value';
import { treatmentRequest } from '../../demo/forms';
import { baseTables, tableId } from '../../demo/tables';
import { directory } from './directory';

/** The sample treatment form, and records for its lookups, for tests of the pure core. */
export const design: FormDesign = treatmentRequest;
export const tables = new Map([...baseTables, directory].map((table) => [table.id, table]));
export const world = worldOf('2026-11-23T10:00:00');

export const BED = '01900000-0000-7000-b000-000000000001';
export const SOAP = '01900000-0000-7000-b000-000000000002';
export const NEMAVAR = '01900000-0000-7000-b000-000000000003';

export const records: Records = new Map<string, RecordValue>([
  [
    recordKey(tableId(1), BED),
    { id: BED, title: 'G4-12 · Fern house, north bench', values: { cbedarea: new Big('18.50') } },
  ],
  [
    recordKey(tableId(3), SOAP),
    {
      id: SOAP,
      title: 'Soft soap spray 2%',
      values: { cpromax: new Big('80.0'), cprostock: new Big('4000') },
    },
  ],
  [
    recordKey(tableId(3), NEMAVAR),
    { id: NEMAVAR, title: 'Nemavar drench', values: { cpromax: new Big('40.0'), cprostock: new Big('700') } },
  ],
]);

const compiledForms = new WeakMap<FormDesign, CompiledForm>();

export function compiledForm(of: FormDesign = design): CompiledForm {
  const known = compiledForms.get(of);
  if (known !== undefined) return known;
  const form = compileForm(of, tables);
  if (!form.ok) throw new Error(JSON.stringify(form.error));
  compiledForms.set(of, form.value);
  return form.value;
}

export const sheetOf = (answers: Answers, of: FormDesign = design): Sheet =>
  new Sheet(compiledForm(of), answers, records, world);

export const full: Answers = {
  values: { qtrbed: BED, qtrplanned: '2026-11-25', qtrclosed: true },
  rows: {
    qtrlines: [
      { id: 'r1', cells: { qtrproduct: SOAP, qtrrate: '60.0' } },
      { id: 'r2', cells: { qtrproduct: NEMAVAR, qtrrate: '30' } },
    ],
  },
  reasons: {},
};
