import { expect, it } from 'vitest';
import { openNewSheet } from '../../src/use-cases/submissions/open-sheet';
import { openHome } from '../../src/use-cases/submissions/open-home';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import {
  as,
  formIds,
  must,
  newId,
  plantGarden,
  releaseSampleForms,
  sent,
  treatmentAnswers,
  useWorld,
  type Garden,
} from '../support/world';

let garden: Garden;
useWorld(async (made) => {
  garden = await plantGarden(made);
  await releaseSampleForms();
});
const home = (name: string) => must(openHome(as(name)));

it('shows what waits for one, what is one’s own, the news of it, and what others changed in one’s tables', async () => {
  const before = await home('Maren');
  expect([before.waiting, before.happened, before.mine]).toEqual([[], [], []]);
  const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
  const lead = await home('Tomasz');
  expect(lead.waiting.map(({ id }) => id)).toEqual([one.id]);
  expect(lead.total).toBe(1);
  // What one is asked stands there already; it is no news besides.
  expect(lead.happened).toEqual([]);
  const decide = (name: string, version: number) =>
    must(decideSubmission(as(name), one.id, { key: newId(), version, decision: 'approve', word: '' }));
  const next = await decide('Tomasz', one.version);
  await decide('Ada', next.version);
  const { happened, mine, forms } = await home('Maren');
  expect(happened.map(({ sentence }) => sentence)).toEqual([
    expect.stringMatching(/^Ada Quist approved .* kept$/),
  ]);
  expect(mine[0]).toMatchObject({ id: one.id, state: 'kept' });
  expect(forms[0]).toMatchObject({ id: formIds.treatment, last: mine[0]?.at });
  // Ines keeps the tables; Ada's approval changed one of them. Whoever may change none is shown none.
  expect((await home('Ines')).tables).toContainEqual(
    expect.objectContaining({ key: 'treatments', records: 1, changed: 1 }),
  );
  expect((await home('Maren')).tables).toEqual([]);
});

it('begins another sheet like one that was sent, for its sender alone, without its reasons', async () => {
  const given = treatmentAnswers(garden);
  const one = await sent('Maren', formIds.treatment, given);
  const like = async (name: string) =>
    (await must(openNewSheet(as(name), 'treatment_request', { like: one.id }))).answers;
  const again = await like('Maren');
  expect(again.values).toMatchObject({ qtrbed: given.values['qtrbed'] });
  expect(again.rows['qtrlines']?.map(({ cells }) => cells)).toEqual(
    given.rows['qtrlines']?.map(({ cells }) => cells),
  );
  expect(again.reasons).toEqual({});
  expect((await like('Kofi')).rows['qtrlines'] ?? []).toEqual([]);
});
