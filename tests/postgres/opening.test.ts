import { beforeAll, describe, expect, it } from 'vitest';
import { alwaysOpen } from '../../src/core/form/opening';
import { keepOpening } from '../../src/use-cases/forms/opening';
import { openHome } from '../../src/use-cases/submissions/open-home';
import { openNewSheet } from '../../src/use-cases/submissions/open-sheet';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import {
  as,
  draft,
  formIds,
  inspectionAnswers,
  must,
  newId,
  plantGarden,
  refusal,
  releaseSampleForms,
  useWorld,
  type Garden,
} from '../support/world';

const world = useWorld();
let garden: Garden;

beforeAll(async () => {
  await releaseSampleForms();
  garden = await plantGarden(world);
});

const id = formIds.inspection;
const send = (name: string, one: { id: string; version: number }) =>
  sendSubmission(as(name), one.id, { key: newId(), version: one.version });
const drafted = (name: string) => draft(name, id, inspectionAnswers(garden.bed, {}));
const isOffered = async (name: string): Promise<boolean> =>
  (await must(openHome(as(name)))).forms.some((form) => form.id === id);

describe('when a form may be filled', () => {
  it('is said by those who design it, and holds at once for what is begun and sent', async () => {
    expect(await refusal(keepOpening(as('Maren'), id, alwaysOpen))).toMatchObject({ kind: 'forbidden' });
    const begun = await drafted('Maren');
    await must(keepOpening(as('Ines'), id, { ...alwaysOpen, closed: true }));
    expect(await isOffered('Maren')).toBe(false);
    expect(await refusal(openNewSheet(as('Maren'), 'bed_inspection'))).toMatchObject({ why: 'form-closed' });
    // What was typed stays, and can be sent when it opens again.
    expect(await refusal(send('Maren', begun))).toMatchObject({ why: 'form-closed' });
    await must(
      keepOpening(as('Ines'), id, { ...alwaysOpen, from: '2026-11-23T12:00', until: '2026-11-23T12:01' }),
    );
    expect(await isOffered('Maren')).toBe(true);
    expect((await must(send('Maren', begun))).number).toMatch(/-0001$/);
    const late = { ...alwaysOpen, from: null, until: '2026-11-23T11:00' };
    await must(keepOpening(as('Ines'), id, late));
    expect(await refusal(openNewSheet(as('Maren'), 'bed_inspection'))).toMatchObject({ why: 'form-over' });
    const wrong = { ...alwaysOpen, from: '2026-11-24T00:00', until: '2026-11-23T00:00' };
    expect(await refusal(keepOpening(as('Ines'), id, wrong))).toMatchObject({
      issues: [{ code: 'opening-order' }],
    });
  });

  it('takes exactly as many as there may be, of many who send at once', async () => {
    const before = Number((await world.sql('SELECT slate.sent_of($1) AS n', [id]))[0]?.['n']);
    await must(keepOpening(as('Ines'), id, { ...alwaysOpen, most: before + 3 }));
    const drafts = await Promise.all(Array.from({ length: 10 }, () => drafted('Maren')));
    const results = await Promise.all(drafts.map((one) => send('Maren', one)));
    expect(results.filter(({ ok }) => ok)).toHaveLength(3);
    const refused = results.flatMap((one) => (one.ok ? [] : [one.error]));
    expect(refused.every((one) => one.kind === 'forbidden' && one.why === 'form-full')).toBe(true);
    expect(await isOffered('Maren')).toBe(false);
    await must(keepOpening(as('Ines'), id, alwaysOpen));
    expect(await isOffered('Maren')).toBe(true);
  });
});
