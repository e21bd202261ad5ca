import { expect, it } from 'vitest';
import { trailSubjects } from '../trail/line';
import { changedLines, subjectWords, trailSentence } from './trail-sentence';

it('says what was done to what', () => {
  expect(trailSentence({ subject: 'token', verb: 'made', label: 'Thermometers' })).toBe(
    'Made the API token Thermometers',
  );
  expect(trailSentence({ subject: 'session', verb: 'refused', label: '' })).toBe(
    'Somebody nobody knows was not let in',
  );
  expect(trailSentence({ subject: 'right', verb: 'removed', label: '' })).toBe(
    'Took away a right on something that is gone',
  );
  for (const subject of trailSubjects) expect(subjectWords()[subject]).not.toBe('');
});

it('says what was changed, by names instead of ids, and nothing of secrets', () => {
  const [here, gone] = ['01900000-0000-7000-a000-000000000001', '01900000-0000-7000-a000-000000000002'];
  const nameOf = (id: string) => (id === here ? 'Beds' : null);
  const changed = {
    place: ['Fern house', 'Nursery'],
    table_ids: [`["${gone}"]`, `["${here}", "other"]`],
    secret: 'secret',
    manager_id: [here, null],
    kinds: ['[]', '[1, 2]'],
    closed: ['[{"from":"2026-12-24"}]', '["cut off'],
  } as const;
  expect(changedLines({ verb: 'changed', changed }, nameOf)).toEqual([
    'place: Fern house → Nursery',
    'tables: something that is gone → Beds, other',
    'secret: another one',
    'manager: Beds → nothing',
    'kinds: nothing → 1, 2',
    'closed: [{"from":"2026-12-24"}] → ["cut off',
  ]);
  expect(
    changedLines({ verb: 'made', changed: { label: [null, 'Pond'], place: [null, 'Fern house'] } }, nameOf),
  ).toEqual(['place: Fern house']);
  expect(changedLines({ verb: 'removed', changed: { role: ['steward', null] } }, nameOf)).toEqual([
    'for all who are: steward',
  ]);
});
