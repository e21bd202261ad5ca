import { describe, expect, it } from 'vitest';
import { bedInspection } from '../../demo/forms';
import type { Answers } from '../../src/core/form/answers';
import type { EditInput } from '../../src/core/record/edit-input';
import { exportTable } from '../../src/use-cases/records/export-table';
import { openRecord, openRecords } from '../../src/use-cases/records/open-records';
import { readFacets } from '../../src/use-cases/records/read-facets';
import { readGroups } from '../../src/use-cases/records/read-groups';
import { saveEdits } from '../../src/use-cases/records/save-edits';
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
  sent,
  useWorld,
} from '../support/world';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';

/** What was chosen of several, from the sheet to the table, and found again there. */
let bed = '';
const world = useWorld(async (made) => {
  bed = (await plantGarden(made)).bed;
  await releaseSampleForms();
  for (const action of ['see', 'add', 'change'])
    await made.sql(
      `INSERT INTO slate.access_grant (id, table_id, action, role) VALUES (gen_random_uuid(), $1, $2, 'steward') ON CONFLICT DO NOTHING`,
      [bedInspection.table.id, action],
    );
});
const steward = as('Kofi');
const inspection = (signs: string | null, more: Answers['values'] = {}): Answers =>
  inspectionAnswers(bed, { qbipests: true, qbisigns: signs, qbiclean: true, ...more });

describe('several choices', () => {
  it('are kept as an array, read back in the order they are offered, and found by each of them', async () => {
    await sent('Maren', formIds.inspection, inspection('{aphids,wilting}'));
    await sent('Maren', formIds.inspection, inspection('{mould}'));
    await sent('Maren', formIds.inspection, inspection(null, { qbipests: false, qbiclean: null }));
    expect(
      (await world.sql('SELECT signs, tools_cleaned FROM records.inspections ORDER BY number')).map((row) => [
        row['signs'],
        row['tools_cleaned'],
      ]),
    ).toEqual([
      [['wilting', 'aphids'], true],
      [['mould'], true],
      [null, null],
    ]);
    const found = async (where: string) => {
      const { rows, picked } = await must(openRecords(steward, 'inspections', { sort: 'number', where }));
      return [rows.map(({ cells }) => cells['qbisigns']), picked?.picks[0]?.by];
    };
    expect(await found('list contains(signs, "aphids")')).toEqual([['{wilting,aphids}'], 'has']);
    expect(await found('not(list contains(signs, "aphids"))')).toEqual([['{mould}'], 'has-not']);
    expect(await found('signs = null')).toEqual([[null], 'empty']);
    expect(await found('count(signs) > 1')).toEqual([['{wilting,aphids}'], undefined]);
    expect(
      (await must(openRecords(steward, 'inspections', { sort: 'signs', find: 'aphids' }))).rows,
    ).toHaveLength(1);
  });

  it('are counted one by one, with the records that have none', async () => {
    const { facets } = await must(readFacets(steward, 'inspections', { find: '', where: '', about: false }));
    const counts = facets.find(({ of }) => of.label === 'What was seen?')?.counts ?? [];
    expect(counts.map(({ label, records }) => `${label} ${records}`).slice(0, 5)).toEqual([
      'Aphids 1',
      'Mould 1',
      'Wilting 1',
      'empty 1',
      'Yellow leaves 0',
    ]);
    expect(counts[0]?.picks).toEqual([{ left: 'signs', by: 'has', right: ['"aphids"'] }]);
  });

  it('go out as words to people and as lists to programs', async () => {
    const text = async (format: 'csv' | 'json') => {
      const { body } = await must(exportTable(steward, 'inspections', format));
      const pieces: Uint8Array[] = [];
      for await (const piece of body) pieces.push(piece);
      return Buffer.concat(pieces).toString();
    };
    expect(await text('csv')).toContain('"Wilting, Aphids"');
    const out = JSON.parse(await text('json')) as { signs: string[] | null }[];
    expect(out.map(({ signs }) => signs?.join()).sort()).toEqual(['mould', 'wilting,aphids', undefined]);
  });

  it('are changed in the table from what was seen of them, and the history says from what to what', async () => {
    const [row] = (await must(openRecords(steward, 'inspections', { sort: 'number' }))).rows;
    if (row === undefined) throw new Error('an inspection was kept');
    const change = (before: string, signs: string): EditInput[] => [
      {
        t: 'change',
        table: bedInspection.table.id,
        id: row.id,
        version: row.version,
        before: { qbisigns: before },
        values: { qbisigns: signs },
      } as EditInput,
    ];
    expect(
      await refusal(saveEdits(steward, { key: newId(), edits: change('{wilting,aphids}', '{rot}') })),
    ).toMatchObject({ kind: 'invalid', issues: [{ code: 'not-a-choice' }] });
    await must(saveEdits(steward, { key: newId(), edits: change('{wilting,aphids}', '{mould,wilting}') }));
    const { history } = await must(openRecord(steward, 'inspections', row.id));
    expect(history.at(-1)?.cells).toEqual([
      { column: 'qbisigns', before: { raw: '{wilting,aphids}' }, after: { raw: '{wilting,mould}' } },
    ]);
  });

  it('and a confirmation are asked for where they must be given', async () => {
    const { id, version } = await draft('Maren', formIds.inspection, inspection(null, { qbiclean: null }));
    const refused = await refusal(sendSubmission(as('Maren'), id, { key: newId(), version }));
    expect(refused).toMatchObject({
      kind: 'invalid',
      issues: [
        { code: 'required', path: ['qbisigns'] },
        { code: 'not-confirmed', path: ['qbiclean'] },
      ],
    });
  });

  it('a table holds nothing but what it offers, and never a list of nothing', async () => {
    for (const list of ["'{rot}'", "'{}'"])
      await expect(
        world.sql(`UPDATE records.inspections SET signs = ${list} WHERE signs IS NOT NULL`),
      ).rejects.toThrow(/qbisigns|choice/);
    expect(await must(readGroups(steward, 'inspections', { find: '', where: '', by: '' }))).toBeTruthy();
  });
});
