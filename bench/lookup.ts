import { closeConnections } from '../src/data/connect';
import { pickRecords } from '../src/use-cases/records/pick-records';
import { asIs, compare, ines, makeMany, must } from './many';

await makeMany();

/** As a lookup finds them: the best first, each with its title and three columns beside it. */
const wordsText =
  'slate.words(ARRAY[t.number, t.name, t.note, slate.letters(t.quantity), slate.letters(t.price), slate.letters(t.seen)])';
const shownBeside = 't.id, t.name, t.note, t.quantity::text, t.price::text';
for (const [name, search, like] of [
  ['a rare word', 'Frond 77777', '%frond%77777%'],
  ['the beginning of many', 'Frond 77', '%frond%77%'],
  ['a frequent word', 'note', '%note%'],
] as const)
  await compare(
    `a lookup by ${name}`,
    () => must(pickRecords(ines, 'many', search)),
    `SELECT ${shownBeside} FROM records.many t WHERE t.removed_at IS NULL AND ${wordsText} LIKE '${like}' LIMIT 20`,
  );
await compare(
  'a lookup before anything is typed',
  () => must(pickRecords(ines, 'many', '')),
  `SELECT ${shownBeside} FROM records.many t WHERE t.removed_at IS NULL ORDER BY t.id DESC LIMIT 20`,
);
await asIs('DROP TABLE records.many CASCADE');
await closeConnections();
