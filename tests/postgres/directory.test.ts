import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { bedInspection } from '../../demo/forms';
import { ok } from '../../src/core/kernel/result';
import { applyStatements } from '../../src/data/runtime/tables/tables';
import { asOwner } from '../../src/data/transaction';
import { searchLookup } from '../../src/use-cases/submissions/search-lookup';
import { openRecords } from '../../src/use-cases/records/open-records';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { openTableDesign } from '../../src/use-cases/tables/design-table';
import { directory } from '../support/directory';
import {
  as,
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
import { intoTable } from '../../src/core/import/into-table';
import { brought, kept } from '../support/importing';

/** The people of the workspace as a table that others refer to. */
let bed = '';
const world = useWorld(async (made) => {
  bed = (await plantGarden(made)).bed;
  await releaseSampleForms();
});
const care = (name: string): string => personNamed(name).id;
const inspection = (person: string) =>
  inspectionAnswers(bed, { qbipests: true, qbisigns: '{mould}', qbiclean: true, qbicare: person });

describe('the directory', () => {
  it('is a table like any other, as the designer of tables would have made it', async () => {
    expect((await must(openTableDesign(as('Wren'), directory.key))).table).toEqual({
      ...directory,
      version: expect.any(Number) as number,
    });
    const alike = { ...directory, id: newId(), key: 'alike', linked: null };
    await must(
      asOwner({ person: care('Ines') }, async (tx) =>
        ok(await applyStatements(tx, [{ t: 'make-table', table: alike }], () => '')),
      ),
    );
    const shape = async (key: string) => ({
      columns: await world.sql(
        `SELECT attname, format_type(atttypid, atttypmod) AS type, attnotnull, col_description(attrelid, attnum) AS words FROM pg_attribute WHERE attrelid = 'records.${key}'::regclass AND attnum > 0 ORDER BY attnum`,
      ),
      triggers: await world.sql(
        `SELECT tgname, tgtype FROM pg_trigger WHERE tgrelid = 'records.${key}'::regclass AND NOT tgisinternal ORDER BY 1`,
      ),
      constraints: await world.sql(
        `SELECT contype, pg_get_constraintdef(oid) AS says FROM pg_constraint WHERE conrelid = 'records.${key}'::regclass ORDER BY 2`,
      ),
      policies: await world.sql(
        `SELECT polname, polcmd FROM pg_policy WHERE polrelid = 'records.${key}'::regclass ORDER BY 1`,
      ),
    });
    expect(await shape(directory.key)).toEqual(await shape('alike'));
  });

  it('finds people by part of a name or address for whoever fills a form, and follows who is here', async () => {
    const found = async (words: string) =>
      (
        await must(
          searchLookup(as('Maren'), {
            form: formIds.inspection,
            question: 'qbicare',
            submission: null,
            search: words,
          }),
        )
      ).options.map(({ title }) => title);
    expect(await found('biel')).toEqual(['Tomasz Bielak']);
    expect(await found('osei.marchetti@')).toEqual(['Osei Marchetti']);
    await world.sql(`UPDATE slate.person SET name = 'Osei Marchetti-Lund', place = '' WHERE id = $1`, [
      care('Osei'),
    ]);
    expect(await found('lund')).toEqual(['Osei Marchetti-Lund']);
    await world.sql(`UPDATE slate.person SET ended_at = now() WHERE id = $1`, [care('Osei')]);
    expect(await found('Marchetti-Lund')).toEqual([]);
    expect(
      await world.sql(`SELECT place, removed_at IS NOT NULL AS gone FROM records.colleagues WHERE id = $1`, [
        care('Osei'),
      ]),
    ).toEqual([{ place: null, gone: true }]);
  });

  it('is named by records, also after somebody has left, and “me” is whoever looks', async () => {
    await sent('Maren', formIds.inspection, inspection(care('Tomasz')));
    await sent('Maren', formIds.inspection, inspection(care('Ada')));
    const found = async (name: string, where: string) =>
      (await must(openRecords(as(name), 'inspections', { sort: 'number', where }))).rows.map(
        ({ cells }) => cells['qbicare'],
      );
    await world.sql(
      `INSERT INTO slate.access_grant (table_id, action) VALUES ($1, 'see') ON CONFLICT DO NOTHING`,
      [bedInspection.table.id],
    );
    expect(await found('Tomasz', 'cared_for_by = me')).toEqual(['Tomasz Bielak']);
    expect(await found('Ada', 'cared_for_by = me')).toEqual(['Ada Quist']);
    expect(await found('Ada', 'cared_for_by != me')).toEqual(['Tomasz Bielak']);
    expect(await found('Ada', 'cared_for_by.place = me.place')).toEqual(['Ada Quist']);
    await world.sql(`UPDATE slate.person SET ended_at = now() WHERE id = $1`, [care('Tomasz')]);
    expect(await found('Ada', 'cared_for_by != me')).toEqual(['Tomasz Bielak']);
  });

  it('is written by nobody, whatever they may do with tables', async () => {
    for (const action of ['add', 'change', 'remove'])
      await world.sql(`INSERT INTO slate.access_grant (table_id, person_id, action) VALUES ($1, $2, $3)`, [
        directory.id,
        care('Kofi'),
        action,
      ]);
    const edits = [
      { t: 'add' as const, table: directory.id, id: newId(), parent: null, values: { name: 'Nobody' } },
    ];
    expect(await refusal(saveEdits(as('Kofi'), { key: newId(), edits }))).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'linked-no-adding' }],
    });
    await world.sql(
      `INSERT INTO slate.access_grant (table_id, person_id, action) VALUES ($1, $2, 'design')`,
      [directory.id, care('Ines')],
    );
    const data = await brought({ 'people.csv': 'Name,Place\nNobody,Nowhere\nNobody else,Nowhere\n' });
    const [sheet] = data.detection?.sheets ?? [];
    if (sheet === undefined) throw new Error('nothing was detected');
    const decisions = { sheets: { [sheet.name]: { into: { ...intoTable(sheet, directory), by: [] } } } };
    await expect(kept(data, decisions)).rejects.toThrow(/linked-no-adding.*source-fixed/);
    const { default: pg } = await import('pg');
    const client = new pg.Client({ connectionString: world.appUrl });
    await client.connect();
    try {
      await client.query(`SELECT set_config('slate.person', $1, false)`, [care('Kofi')]);
      await expect(client.query(`INSERT INTO records.colleagues (name) VALUES ('Nobody')`)).rejects.toThrow(
        /policy/,
      );
      expect((await client.query(`UPDATE records.colleagues SET name = 'x'`)).rowCount).toBe(0);
      expect((await client.query(`DELETE FROM records.colleagues`)).rowCount).toBe(0);
    } finally {
      await client.end();
    }
  });
});
