import { beforeAll, describe, expect, it } from 'vitest';
import type { PastCases } from '../../src/contract/past-cases';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { digestWaiting } from '../../src/use-cases/submissions/digest';
import { openApprovals } from '../../src/use-cases/submissions/open-home';
import { pastCases } from '../../src/use-cases/submissions/past-cases';
import {
  as,
  formIds,
  must,
  newId,
  plantGarden,
  refusal,
  releaseSampleForms,
  sent,
  treatmentAnswers,
  useWorld,
  type Garden,
} from '../support/world';

/** What something that is to be decided is held against. */
let garden: Garden;
const world = useWorld(async (made) => {
  garden = await plantGarden(made);
  await releaseSampleForms();
});
/** One of a product, at a rate. */
const request = (rate: string, bed = garden.bed) => {
  const all = treatmentAnswers(garden);
  return {
    ...all,
    values: { ...all.values, qtrbed: bed },
    rows: { qtrlines: [{ id: 'r1', cells: { qtrproduct: garden.soap, qtrrate: rate } }] },
  };
};
const past = (name: string, id: string): Promise<PastCases> => must(pastCases(as(name), id));

describe('what was sent before', () => {
  let other = '';
  beforeAll(async () => {
    const [bed] = await world.sql(
      `INSERT INTO records.beds (code, name, section, area) VALUES ('A1-01', 'Arid house, step', 'Arid house', 10) RETURNING id`,
    );
    other = String(bed?.['id']);
  });

  it('is told for the record it is about, the newest first, as far as one may see it', async () => {
    const first = await sent('Maren', formIds.treatment, request('10'));
    await must(
      decideSubmission(as('Tomasz'), first.id, {
        key: newId(),
        version: first.version,
        decision: 'decline',
        word: 'No',
      }),
    );
    const second = await sent('Maren', formIds.treatment, request('20'));
    await sent('Maren', formIds.treatment, request('30', other));
    const now = await sent('Maren', formIds.treatment, request('40'));
    const told = await past('Tomasz', now.id);
    expect(told.by).toEqual({ label: 'Bed', shown: expect.stringContaining('G4-12') as string });
    expect(told.figure).toBe('Total');
    expect(told.cases.map(({ number, state, figure }) => [number, state, figure])).toEqual([
      [second.number, 'waiting', '370.0'],
      [first.number, 'declined', '185.0'],
    ]);
    expect((await refusal(pastCases(as('Kofi'), now.id))).kind).toBe('not-found');
    expect((await refusal(pastCases(as('Tomasz'), newId()))).kind).toBe('not-found');
  });

  it('tells of figures far beyond those that were kept, by what, and not to whoever sent it', async () => {
    const one = await sent('Maren', formIds.treatment, request('79'));
    expect((await past('Tomasz', one.id)).beyond).toEqual([]);
    // Ten of this bed, as if they had been kept.
    await world.sql(
      `INSERT INTO records.treatments (number, bed, planned_on, path_closed, total) SELECT 'T-' || n, $1, '2026-11-01', true, 180 + n FROM generate_series(1, 10) AS n`,
      [garden.bed],
    );
    const [beyond] = (await past('Tomasz', one.id)).beyond;
    expect(beyond).toMatchObject({
      label: 'Total',
      count: 10,
      like: expect.stringContaining('G4-12') as string,
    });
    expect(beyond?.times).toBeGreaterThan(7);
    expect((await past('Maren', one.id)).beyond).toEqual([]);
  });

  it('stands in the list of what waits, which tells each by what it is about and its figure', async () => {
    const far = await sent('Maren', formIds.treatment, request('79'));
    const usual = await sent('Maren', formIds.treatment, request('10'));
    const listed = async (id: string) =>
      (await must(openApprovals(as('Tomasz')))).waiting.find((one) => one.id === id);
    expect(await listed(far.id)).toMatchObject({
      gist: expect.stringMatching(/^G4-12.* · Total 1.461\.5/) as string,
      unusual: ['figures'],
    });
    expect(await listed(usual.id)).toMatchObject({ unusual: [] });
    // Once it has other answers it is worked out anew, by the job or when somebody looks.
    await world.sql(
      `UPDATE slate.submission SET answers = jsonb_set(answers, '{rows,qtrlines,0,cells,qtrrate}', '"10"') WHERE id = $1`,
      [far.id],
    );
    expect(await world.sql(`SELECT digest FROM slate.submission WHERE id = $1`, [far.id])).toEqual([
      { digest: null },
    ]);
    await digestWaiting(as('Tomasz').now);
    expect(
      await world.sql(`SELECT 1 FROM slate.submission WHERE state = 'waiting' AND digest IS NULL`),
    ).toEqual([]);
    expect(await listed(far.id)).toMatchObject({ unusual: [] });
  });
});
