import { beforeAll, expect, it } from 'vitest';
import type { FormDesign } from '../../src/core/form/design';
import { ok } from '../../src/core/kernel/result';
import { insertForm, insertRelease } from '../../src/data/system/forms';
import { grantFilling, noteAllowed } from '../../src/data/runtime/tables/table-rights';
import { applyChanges } from '../../src/data/runtime/tables/tables';
import { asOwner } from '../../src/data/transaction';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { personNamed } from '../../demo/people';
import { as, draft, must, newId, refusal, useWorld } from '../support/world';

useWorld();
const FORM = '01900000-0000-7000-a000-0000000000aa';

/** Twenty formulas that each go through as many numbers as an answer says. */
const hostile: FormDesign = {
  format: 1,
  title: 'Counting',
  area: '',
  steps: [],
  checks: Array.from({ length: 20 }, (_, i) => ({
    id: `cc${i}`,
    on: 'qcnmany',
    must: 'count(for i in 1..qcnmany return i) >= 0',
    message: 'never told',
    otherwise: 'stop' as const,
  })),
  table: { id: '01900000-0000-7000-8000-0000000000aa', key: 'countings', label: 'Countings', prefix: 'CN' },
  sections: [
    {
      id: 's',
      title: '',
      questions: [
        { id: 'qcnmany', key: 'many', label: 'Many', hint: '', required: true, kind: 'whole', unit: '' },
      ],
    },
  ],
};

beforeAll(async () => {
  const ines = personNamed('Ines').id;
  // Put in beside the checks of a release, as an old release may have been.
  await must(
    asOwner({ person: ines }, async (tx) => {
      const { tablesOf } = await import('../../src/core/storage/tables-of');
      const { planTables } = await import('../../src/core/table/plan');
      const planned = planTables([], tablesOf(hostile));
      if (!planned.ok) throw new Error(JSON.stringify(planned.error));
      await insertForm(tx, { id: FORM, key: 'counting', design: hostile, ownerId: ines, editedBy: ines });
      await applyChanges(tx, new Map(), planned.value, ['owner']);
      const release = {
        id: newId(),
        formId: FORM,
        number: 1,
        design: hostile,
        releasedBy: ines,
        formVersion: 1,
      };
      await insertRelease(tx, release, [{ tableId: hostile.table.id, use: 'write', columns: [] }]);
      await grantFilling(tx, FORM);
      return ok(await noteAllowed(tx, FORM, [{ table: hostile.table.id, uses: ['write'] }]));
    }),
  );
});

const send = async (many: string) => {
  const one = await draft('Maren', FORM, { values: { qcnmany: many }, rows: {}, reasons: {} });
  return sendSubmission(as('Maren'), one.id, { key: newId(), version: one.version });
};

it('works out what takes long beside the server, and keeps it', async () => {
  // 20 times 10 000 steps are more than a request does by itself, and less than a sheet may take.
  expect((await must(send('10000'))).state).toBe('kept');
});

it('refuses what no sheet may take, at its line, and goes on serving meanwhile', async () => {
  let turns = 0;
  const beat = setInterval(() => turns++, 5);
  const refused = await refusal(send('100000000'));
  clearInterval(beat);
  expect(refused).toMatchObject({
    kind: 'invalid',
    issues: [
      { code: 'too-many-steps', path: ['qcnmany'] },
      ...Array.from({ length: 19 }, () => ({ code: 'too-many-steps' })),
    ],
  });
  // The thread that serves was free between: it would have had one turn at most, had it worked all out by itself.
  expect(turns).toBeGreaterThan(5);
});
