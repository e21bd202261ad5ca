import { personNamed } from '../../demo/people';
import { noAnswers } from '../../src/core/form/answers';
import type { ApprovalStep, FormDesign } from '../../src/core/form/design';
import { ok } from '../../src/core/kernel/result';
import { insertForm } from '../../src/data/system/forms';
import { asOwner } from '../../src/data/transaction';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { as, must, newId } from './world';

/** A form of one question with these steps, filled by everybody. */
export async function formWith(...steps: Omit<ApprovalStep, 'id' | 'label'>[]): Promise<string> {
  const id = newId();
  const key = `f${id.slice(0, 8)}`;
  const design: FormDesign = {
    format: 1,
    title: key,
    area: '',
    sections: [
      {
        id: 's1',
        title: '',
        questions: [
          { id: 'qwhat', key: 'what', label: 'What', hint: '', required: false, kind: 'text', long: false },
        ],
      },
    ],
    checks: [],
    steps: steps.map((step, i) => ({ ...step, id: `step${i}`, label: `Step ${i}` })),
    table: { id: newId(), key, label: key, prefix: 'FW' },
  };
  const ines = personNamed('Ines').id;
  await asOwner({ person: ines }, async (tx) => {
    await insertForm(tx, { id, key, ownerId: ines, editedBy: ines, design });
    return ok(null);
  });
  await must(releaseForm(as('Ines'), id, { version: 1, allow: [], fill: 'everybody', note: '' }));
  return id;
}

export const answers = { ...noAnswers, values: { qwhat: 'Something' } };
