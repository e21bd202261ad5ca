import { beforeAll, expect, it } from 'vitest';
import { products } from '../../demo/tables';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { searchLookup } from '../../src/use-cases/submissions/search-lookup';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { sayWhoOfTable, whoOfTable } from '../../src/use-cases/people/say-who';
import {
  as,
  draft,
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

/** A form that looks into restricted columns: whoever fills it is told nothing of them, and held to them all the same. */
const world = useWorld(releaseSampleForms);
let garden: Garden;
/** The label's top rate of a product, which a check of the form reads, and what is in stock, which it shows. */
const RATE = '61.7';

beforeAll(async () => {
  garden = await plantGarden(world);
  await world.sql(`UPDATE records.products SET max_rate = ${RATE}, in_stock = 7654`);
  const { grants } = await must(whoOfTable(as('Wren'), products.key));
  await must(
    sayWhoOfTable(as('Wren'), products.key, {
      grants: grants.map(({ id: _, tableId: _table, formId: _form, ...grant }) => grant),
      seen: grants.map(({ id }) => id),
      restricted: ['cpromax', 'cprolicence'],
    }),
  );
  await world.sql(`UPDATE records.products SET licence = 'L-4711'`);
});
const answers = (rate: string) => {
  const all = treatmentAnswers(garden);
  const [line] = all.rows['qtrlines'] ?? [];
  if (line === undefined) throw new Error('no line');
  return { ...all, rows: { qtrlines: [{ ...line, cells: { ...line.cells, qtrrate: rate } }] } };
};

it('tells nobody in a lookup, or with the sheet, what they do not see', async () => {
  const look = async (who: string, search: string) =>
    must(
      searchLookup(as(who), { form: formIds.treatment, question: 'qtrproduct', submission: null, search }),
    );
  const hers = JSON.stringify(await look('Maren', ''));
  expect(hers).toContain('Soft soap');
  expect(hers).not.toContain('4711');
  expect(hers).not.toContain(RATE);
  expect((await look('Maren', 'L-4711')).options).toEqual([]);
  expect(JSON.stringify(await look('Wren', 'L-4711'))).toContain(RATE);
  const { id } = await draft('Maren', formIds.treatment, answers('60'));
  const sheet = JSON.stringify(await must(openSubmission(as('Maren'), id)));
  expect(sheet).toContain('Soft soap');
  expect(sheet).not.toContain('4711');
  expect(sheet).not.toContain(RATE);
});

it('holds what is sent to it, whoever sends it, and does not say it', async () => {
  const { id, version } = await draft('Maren', formIds.treatment, answers('62'));
  const refused = await refusal(sendSubmission(as('Maren'), id, { key: newId(), version }));
  expect(refused.kind).toBe('invalid');
  expect(JSON.stringify(refused)).toContain('check-stops');
  expect(JSON.stringify(refused)).not.toContain(RATE);
  const other = await draft('Maren', formIds.treatment, answers('60'));
  await must(sendSubmission(as('Maren'), other.id, { key: newId(), version: other.version }));
});
