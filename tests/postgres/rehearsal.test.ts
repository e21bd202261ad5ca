import { beforeAll, describe, expect, it } from 'vitest';
import { addQuestion, asKind, replaceQuestion } from '../../src/core/form/edit';
import type { Answers } from '../../src/core/form/answers';
import { allQuestions, type FormDesign } from '../../src/core/form/design';
import { createForm } from '../../src/use-cases/forms/create-form';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { acceptExample, dropExample, keepExample, playExamples } from '../../src/use-cases/forms/examples';
import { openRehearsal, pastSubmissions } from '../../src/use-cases/forms/open-rehearsal';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { rehearseForm } from '../../src/use-cases/forms/rehearse-form';
import { personNamed } from '../../demo/people';
import {
  as,
  formIds,
  must,
  newId,
  plantGarden,
  refusal,
  releaseSampleForms,
  treatmentAnswers,
  useWorld,
  type Garden,
} from '../support/world';

const world = useWorld();
const maren = personNamed('Maren').id;
const id = formIds.treatment;
let garden: Garden;
let full: Answers;

beforeAll(async () => {
  await releaseSampleForms();
  garden = await plantGarden(world);
  full = treatmentAnswers(garden);
});

/** Every row of every table of ours and of the owners, and every table there is. */
async function everything(): Promise<string> {
  const tables = await world.sql(
    "SELECT schemaname || '.' || quote_ident(tablename) AS name FROM pg_tables WHERE schemaname IN ('slate', 'records', 'calculated') ORDER BY 1",
  );
  const sums: string[] = [];
  for (const { name } of tables) {
    const [sum] = await world.sql(
      `SELECT count(*) AS n, md5(coalesce(string_agg(t::text, '|' ORDER BY t::text), '')) AS sum FROM ${String(name)} t`,
    );
    sums.push(`${String(name)} ${String(sum?.['n'])} ${String(sum?.['sum'])}`);
  }
  return sums.join('\n');
}

async function designed(change: (design: FormDesign) => FormDesign, title = `Form ${newId()}`) {
  const { id } = await must(createForm(as('Ines'), { id: newId(), title }));
  const { design } = await must(openWorkbench(as('Ines'), id));
  await must(editForm(as('Ines'), id, { version: 1, design: change(design) }));
  return id;
}

const asked = (design: FormDesign, id: string, label: string, kind: 'text' | 'whole'): FormDesign =>
  addQuestion(
    design,
    design.sections[0]?.id ?? '',
    asKind({ id, key: id, label, hint: '', required: false }, kind, design.table),
  );
const answers = (values: Answers['values']): Answers => ({ values, rows: {}, reasons: {} });
const at = '2026-11-23T10:00';

describe('a rehearsal', () => {
  it('writes what sending would, and leaves nothing behind', async () => {
    const before = await everything();
    const told = await must(rehearseForm(as('Ines'), id, { as: maren, at, answers: full }));
    expect(told.issues).toEqual([]);
    expect(told.steps.map(({ asked: people }) => people.length)).toEqual([1, 3]);
    expect(told.records.map(({ key, what }) => `${key} ${what}`)).toEqual([
      'treatments new',
      'treatment_lines new',
      'treatment_lines new',
    ]);
    expect(told.records[1]?.cells).toContainEqual({ key: 'rate', before: null, after: '60.0' });
    expect(told.changedTables).toBe(false);
    expect(await everything()).toBe(before);
  });

  it('says what keeps it from being sent, and asks nobody to approve their own', async () => {
    const late = { ...full, values: { ...full.values, qtrplanned: '2026-11-01' } };
    const told = await must(rehearseForm(as('Ines'), id, { as: maren, at, answers: late }));
    expect(told.issues.map(({ code, path }) => [code, path])).toEqual([['check-stops', ['qtrplanned']]]);
    expect(told.records).toEqual([]);
    // The same day is a coming one, seen from October.
    const earlier = await must(
      rehearseForm(as('Ines'), id, { as: maren, at: '2026-10-01T09:00', answers: late }),
    );
    expect(earlier.issues).toEqual([]);
    const own = await must(rehearseForm(as('Ines'), id, { as: personNamed('Tomasz').id, at, answers: full }));
    expect(own.issues.map(({ code }) => code)).toEqual(['nobody-to-ask']);
    expect(own.steps[0]?.asked).toEqual([]);
  });

  it('makes tables that are not there, and puts them back', async () => {
    const pots = await designed((design) => asked(design, 'qpots', 'Pots', 'whole'));
    const before = await everything();
    const told = await must(
      rehearseForm(as('Ines'), pots, { as: maren, at: null, answers: answers({ qpots: '12' }) }),
    );
    expect(told.issues).toEqual([]);
    expect(told.records.map(({ what, cells }) => [what, cells])).toEqual([
      ['new', [{ key: 'qpots', before: null, after: '12' }]],
    ]);
    expect([told.changedTables, told.mayFill]).toEqual([true, null]);
    expect(await everything()).toBe(before);
  });

  it('waits for nobody who changes tables, and keeps nobody waiting', async () => {
    const cups = await designed((design) => asked(design, 'qcup', 'Cups', 'whole'));
    const begun = Date.now();
    const [told] = await Promise.all([
      refusal(rehearseForm(as('Ines'), cups, { as: maren, at: null, answers: answers({}) })),
      world.sql("SELECT pg_advisory_xact_lock(hashtext('slate tables')), pg_sleep(2)"),
    ]).catch((error: unknown) => [error]);
    expect(told).toMatchObject({ kind: 'stale', why: 'busy' });
    expect(Date.now() - begun).toBeLessThan(10_000);
  });

  it('is for those who design the form, and shows them no record they may not offer', async () => {
    const input = { as: maren, at, answers: full };
    expect(await refusal(rehearseForm(as('Maren'), id, input))).toMatchObject({ kind: 'forbidden' });
    expect(await refusal(openRehearsal(as('Tomasz'), id, { ...input, of: null }))).toMatchObject({
      kind: 'forbidden',
    });
    expect(await refusal(pastSubmissions(as('Maren'), id))).toMatchObject({ kind: 'forbidden' });
    expect(await refusal(rehearseForm(as('Ines'), id, { ...input, as: newId() }))).toMatchObject({
      kind: 'not-found',
    });
    const unfinished = await designed((design) => asked(design, 'qx', '', 'text'));
    expect(await refusal(rehearseForm(as('Ines'), unfinished, input))).toMatchObject({ kind: 'invalid' });
  });

  it('opens with what was typed, with the names of what is picked', async () => {
    const opened = await must(openRehearsal(as('Ines'), id, { as: maren, at, of: null, answers: full }));
    expect([opened.rehearsal, opened.asking.name, opened.now]).toEqual([
      true,
      'Maren Solheim',
      '2026-11-23T10:00:00',
    ]);
    expect(opened.answers.rows['qtrlines']?.[0]?.cells['qtrproduct']).toBe(garden.soap);
    expect(opened.answers.values['qtrbed']).toBe(garden.bed);
  });
});

describe('an example', () => {
  it('is played by the draft as it is, and told when it ends differently', async () => {
    const form = await designed((design) =>
      asked(asked(design, 'qcount', 'Count', 'whole'), 'qnote', 'Note', 'text'),
    );
    const example = newId();
    const kept = { label: 'Twelve', as: maren, at, answers: answers({ qcount: '12', qnote: 'x' }) };
    await must(keepExample(as('Ines'), form, example, kept));
    // Sent again, because the answer was lost.
    await must(keepExample(as('Ines'), form, example, kept));
    const same = await must(playExamples(as('Ines'), form));
    expect(same.examples.map(({ label, differs }) => [label, differs])).toEqual([['Twelve', []]]);

    const { design, version } = await must(openWorkbench(as('Ines'), form));
    const checked: FormDesign = {
      ...replaceQuestion(design, 'qnote', (one) => ({ ...one, key: 'remark' })),
      checks: [
        { id: 'kcount', on: 'qcount', must: 'qcount <= 10', message: 'Ten at most', otherwise: 'stop' },
      ],
    };
    await must(editForm(as('Ines'), form, { version, design: checked }));
    const other = await must(playExamples(as('Ines'), form));
    expect(other.examples[0]?.differs).toEqual(['Now: Ten at most']);
    expect(other.examples[0]?.now.checks).toEqual([{ id: 'kcount', row: null, came: 'stops' }]);
    await must(acceptExample(as('Ines'), form, example));
    expect((await must(playExamples(as('Ines'), form))).examples[0]?.differs).toEqual([]);
    expect(allQuestions(checked)).toHaveLength(2);

    expect(await refusal(playExamples(as('Maren'), form))).toMatchObject({ kind: 'forbidden' });
    const another = await designed((one) => asked(one, 'qz', 'Z', 'text'));
    expect(await refusal(dropExample(as('Ines'), another, example))).toMatchObject({ kind: 'not-found' });
    await must(dropExample(as('Ines'), form, example));
    expect((await must(playExamples(as('Ines'), form))).examples).toEqual([]);
  });
});
