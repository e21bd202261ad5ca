import { beforeAll, describe, expect, it } from 'vitest';
import { treatmentRequest } from '../../demo/forms';
import type { FormDesign, LookupQuestion, RowsQuestion } from '../../src/core/form/design';
import { replaceQuestion } from '../../src/core/form/edit';
import { insertForm } from '../../src/data/system/forms';
import { asOwner } from '../../src/data/transaction';
import { ok } from '../../src/core/kernel/result';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { eachOfLookup, nameLookup, searchLookup } from '../../src/use-cases/submissions/search-lookup';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import {
  as,
  draft,
  must,
  newId,
  plantGarden,
  refusal,
  treatmentAnswers,
  useWorld,
  type Garden,
} from '../support/world';

const world = useWorld();
let garden: Garden;
const form = newId();

/** A bed of the sender's own place, whose area is what was asked for at least, and not closed to visitors. */
const where = 'pick_cbedhouse = sender.place and pick_cbedarea >= qtrleast';
const design: FormDesign = replaceQuestion(
  replaceQuestion(treatmentRequest, 'qtrbed', (one) => ({ ...(one as LookupQuestion), where })),
  'qtrlines',
  (one) => ({
    ...(one as RowsQuestion),
    starts: { t: 'each', lookup: 'qtrproduct', where: 'pick_cpromax >= qtrleast' },
  }),
);
const asked: FormDesign = {
  ...design,
  sections: design.sections.map((section) => ({
    ...section,
    questions: [
      {
        id: 'qtrleast',
        key: 'least',
        label: 'Least area',
        hint: '',
        required: false,
        kind: 'decimal',
        decimals: 1,
        unit: 'm²',
      },
      ...section.questions,
    ],
  })),
};

beforeAll(async () => {
  garden = await plantGarden(world);
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) VALUES
      ('F-1', 'Fern wall', 'Fern house', 4), ('F-10', 'Old ferns', 'Fern house', 40), ('A-1', 'Fern-leaved', 'Arid house', 9), ('G-FERN', 'Säulen', 'Fern house', 12)`,
  );
  await world.sql("UPDATE records.products SET in_stock = 0 WHERE name LIKE 'Nemavar%'");
  await world.sql("UPDATE slate.person SET place = 'Fern house' WHERE name LIKE 'Maren%'");
  await must(
    asOwner({ person: as('Ines').person.id }, async (tx) =>
      ok(
        await insertForm(tx, {
          id: form,
          key: 'bed_lookups',
          design: { ...asked, table: { ...asked.table } },
          ownerId: as('Ines').person.id,
          editedBy: as('Ines').person.id,
        }),
      ),
    ),
  );
  await must(releaseForm(as('Ines'), form, { version: 1, fill: 'everybody' }));
});

const look = (question: string, search: string, given: Record<string, string> = {}) =>
  must(searchLookup(as('Maren'), { form, question, submission: null, search, given }));
const titles = async (search: string, least = '0') =>
  (await look('qtrbed', search, { qtrleast: least })).options.map(({ title }) => title);

describe('rows that begin with one for each record', () => {
  const each = (question: string, given: Record<string, string>, who = 'Maren') =>
    eachOfLookup(as(who), { form, question, submission: null, given });
  const titlesOf = async (...asked: Parameters<typeof each>) =>
    (await must(each(...asked))).records.map(({ title }) => title);

  it('are those on offer that their own condition lets through as well, once it can be told', async () => {
    expect(await titlesOf('qtrproduct', { qtrleast: '0' })).toEqual(['Soft soap spray 2%']);
    expect(await titlesOf('qtrproduct', { qtrleast: '900' })).toEqual([]);
    expect(await titlesOf('qtrproduct', {})).toEqual([]);
  });

  it('are no way round what somebody may fill, and of no question that is not there', async () => {
    expect(await refusal(each('nothing', {}))).toMatchObject({ kind: 'not-found' });
    expect(
      await refusal(eachOfLookup(as('Maren'), { form: newId(), question: 'qtrproduct', submission: null })),
    ).toMatchObject({ kind: 'not-found' });
  });
});

describe('what a lookup offers', () => {
  it('is what fits the answers there are, and says what is to be answered first', async () => {
    expect(await titles('')).toEqual([
      'F-1 · Fern wall',
      'F-10 · Old ferns',
      'G-FERN · Säulen',
      'G4-12 · Fern house, north bench',
    ]);
    expect(await titles('', '12')).toEqual([
      'F-10 · Old ferns',
      'G-FERN · Säulen',
      'G4-12 · Fern house, north bench',
    ]);
    expect(await look('qtrbed', '')).toMatchObject({ options: [], waitsFor: ['Least area'] });
    expect(await look('qtrbed', '', { qtrleast: 'many' })).toMatchObject({
      options: [],
      waitsFor: ['Least area'],
    });
    // Another form of the same question knows nothing of it.
    expect((await look('qtrproduct', '')).options.map(({ title }) => title)).toEqual(['Soft soap spray 2%']);
  });

  it('begins with what is called so, then what begins so, then what has a word that does, then the rest', async () => {
    const found = await look('qtrbed', 'f', { qtrleast: '0' });
    expect(found.options.map(({ title }) => title)).toHaveLength(4);
    expect(await titles('F-1')).toEqual(['F-1 · Fern wall', 'F-10 · Old ferns']);
    expect(await titles('fern wall')).toEqual(['F-1 · Fern wall']);
    expect((await titles('ern')).slice(-1)).not.toEqual([]);
    // Accents and case make no difference; what is shown beside the title is searched, and nothing else.
    expect(await titles('SAULEN')).toEqual(['G-FERN · Säulen']);
    expect(found.heads).toEqual(['Section']);
    expect(found.near).toBe(false);
  });

  it('is near where nothing is called so: one letter wrong, missing, too many or swapped', async () => {
    for (const slip of ['bemch', 'bnch', 'bennch', 'ebnch'])
      expect([slip, await look('qtrbed', slip, { qtrleast: '0' })]).toMatchObject([
        slip,
        { near: true, options: [{ title: 'G4-12 · Fern house, north bench' }] },
      ]);
    expect(await titles('zzzz')).toEqual([]);
    // Half a percent sign finds itself, and not everything.
    expect((await look('qtrproduct', '2%')).options).toHaveLength(1);
    expect((await look('qtrproduct', '%%')).options).toHaveLength(0);
  });

  it('begins with what was picked lately, where that still fits', async () => {
    await draft('Maren', form, { ...treatmentAnswers(garden), values: { qtrbed: garden.bed } });
    const found = await look('qtrbed', '', { qtrleast: '0' });
    expect(found.options.map(({ title }) => title)[0]).toBe('G4-12 · Fern house, north bench');
    expect(found).toMatchObject({ lately: 1 });
    expect(new Set(found.options.map(({ id }) => id)).size).toBe(4);
    expect((await look('qtrbed', '', { qtrleast: '30' })).lately).toBe(0);
    expect((await look('qtrbed', 'fern', { qtrleast: '0' })).lately).toBe(0);
  });

  it('is named by its words alone where it fits', async () => {
    const names = (texts: string[], least: string) =>
      must(
        nameLookup(as('Maren'), {
          form,
          question: 'qtrbed',
          submission: null,
          texts,
          given: { qtrleast: least },
        }),
      );
    expect((await names(['f-1', 'A-1', 'Old ferns'], '0')).records.map((one) => one?.title ?? null)).toEqual([
      'F-1 · Fern wall',
      null,
      'F-10 · Old ferns',
    ]);
    expect((await names(['F-1'], '5')).records).toEqual([null]);
  });
});

describe('what is picked and does not fit', () => {
  it('is told at its line, on the server too, and stays to be changed', async () => {
    const answers = treatmentAnswers(garden);
    const one = await draft('Maren', form, {
      ...answers,
      values: { ...answers.values, qtrleast: '100' },
      rows: { qtrlines: [{ id: 'r1', cells: { qtrproduct: garden.nemavar, qtrrate: '30' } }] },
    });
    const refused = await refusal(
      sendSubmission(as('Maren'), one.id, { key: newId(), version: one.version }),
    );
    expect(refused).toMatchObject({ kind: 'invalid' });
    const issues = refused.kind === 'invalid' ? refused.issues : [];
    expect(issues.map(({ code, path }) => [code, ...path])).toEqual(
      expect.arrayContaining([
        ['pick-misfits', 'qtrbed'],
        ['pick-misfits', 'qtrlines', 'r1', 'qtrproduct'],
      ]),
    );
    // What cannot be told, because an answer it reads is empty, keeps nobody.
    const other = await draft('Maren', form, {
      ...answers,
      rows: { qtrlines: (answers.rows['qtrlines'] ?? []).slice(0, 1) },
    });
    expect(
      (await must(sendSubmission(as('Maren'), other.id, { key: newId(), version: other.version }))).state,
    ).toBe('waiting');
  });
});
