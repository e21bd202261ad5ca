import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { followLive } from '../../src/use-cases/workspace/follow-live';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { createForm } from '../../src/use-cases/forms/create-form';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { addQuestion, asKind } from '../../src/core/form/edit';
import {
  as,
  formIds,
  must,
  newId,
  plantGarden,
  releaseSampleForms,
  sent,
  treatmentAnswers,
  type Garden,
  useWorld,
} from '../support/world';

const world = useWorld();
let garden: Garden;
const stops: (() => void)[] = [];

beforeAll(async () => {
  await releaseSampleForms();
  garden = await plantGarden(world);
});
afterAll(async () => {
  for (const stop of stops) stop();
});

/** Follows topics as a person and collects what is told. */
async function follower(name: string, topics: string[]): Promise<string[]> {
  const told: string[] = [];
  stops.push((await must(followLive(as(name), topics, (topic) => told.push(topic)))).stop);
  return told;
}

/** NOTIFY comes with the commit; a moment for the connection to hear it. */
async function until(what: () => boolean): Promise<void> {
  for (let i = 0; i < 100 && !what(); i++) await new Promise((resolve) => setTimeout(resolve, 50));
  expect(what()).toBe(true);
}

const tableId = async (key: string): Promise<string> =>
  String((await world.sql('SELECT id FROM slate.designed_table WHERE key = $1', [key]))[0]?.['id']);

describe('what lands is told to those who may know', () => {
  it('tells of rows to those who may see the table, whoever wrote them', async () => {
    const [beds, treatments] = [await tableId('beds'), await tableId('treatments')];
    const ines = await follower('Ines', [`table:${treatments}`]);
    const osei = await follower('Osei', [`table:${beds}`, `table:${treatments}`]);
    await until(() => true);
    // The listening connection is made by the first follower; plain SQL is told as soon as it stands.
    for (let i = 0; i < 40 && !osei.includes(`table:${beds}`); i++) {
      await world.sql(`UPDATE records.beds SET section = section WHERE code = 'G4-12'`);
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    expect(osei).toContain(`table:${beds}`);
    const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    const first = await must(
      decideSubmission(as('Tomasz'), one.id, {
        key: newId(),
        version: one.version,
        decision: 'approve',
        word: '',
      }),
    );
    await must(
      decideSubmission(as('Ada'), one.id, {
        key: newId(),
        version: first.version,
        decision: 'approve',
        word: '',
      }),
    );
    await until(() => ines.includes(`table:${treatments}`));
    expect(osei).not.toContain(`table:${treatments}`);
  });

  it('tells the person asked, and the sender what became of it, and nobody else', async () => {
    const [tomasz, maren, osei] = [
      await follower('Tomasz', []),
      await follower('Maren', []),
      await follower('Osei', []),
    ];
    const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    await until(() => tomasz.includes(`person:${as('Tomasz').person.id}`));
    const watching = await follower('Maren', [`submission:${one.id}`]);
    const stranger = await follower('Osei', [`submission:${one.id}`]);
    await must(
      decideSubmission(as('Tomasz'), one.id, {
        key: newId(),
        version: one.version,
        decision: 'decline',
        word: 'No',
      }),
    );
    await until(() => watching.includes(`submission:${one.id}`));
    await until(() => maren.includes(`person:${as('Maren').person.id}`));
    expect(
      [...stranger, ...osei].filter(
        (topic) => topic.startsWith('submission:') || topic.startsWith('person:'),
      ),
    ).toEqual([]);
  });

  it('tells everybody of a release, and nothing of what was rolled back', async () => {
    const told = await follower('Maren', []);
    const { id } = await must(createForm(as('Ines'), { id: newId(), title: 'Told' }));
    await releaseForm(as('Ines'), id, { version: 1, fill: 'everybody' });
    expect(told).not.toContain('forms');
    const { design } = await must(openWorkbench(as('Ines'), id));
    const wider = addQuestion(
      design,
      design.sections[0]!.id,
      asKind({ id: 'qa', key: 'name', label: 'Name', hint: '', required: true }, 'text', design.table),
    );
    await must(editForm(as('Ines'), id, { version: 1, design: wider }));
    await must(releaseForm(as('Ines'), id, { version: 2, fill: 'everybody' }));
    await until(() => told.includes('forms'));
  });

  it('writes the outbox in the same transaction', async () => {
    const count = async () =>
      Number((await world.sql('SELECT count(*)::int AS n FROM slate.outbox'))[0]?.['n']);
    const before = await count();
    await world.sql(`BEGIN; UPDATE records.beds SET section = 'Elsewhere'; ROLLBACK`);
    expect(await count()).toBe(before);
    await world.sql(`UPDATE records.beds SET section = 'Elsewhere'`);
    expect(await count()).toBe(before + 1);
  });
});
