import { personNamed } from '../demo/people';
import { closeConnections } from '../src/data/connect';
import { sayWhoOfTable, whoOfTable } from '../src/use-cases/people/say-who';
import { openRecords } from '../src/use-cases/records/open-records';
import { readFacets } from '../src/use-cases/records/read-facets';
import { readGroups } from '../src/use-cases/records/read-groups';
import { makeWordsIndex } from '../src/use-cases/tables/make-index';
import { asIs, ines, makeMany, many, must, ROWS, timed } from './many';

/** What a table of many records costs that has a restricted column: for whoever sees it, and for whoever does not, against the same table before it was restricted. */
await makeMany();
const kofi = { person: personNamed('Kofi'), now: ines.now };
const maren = { person: personNamed('Maren'), now: ines.now };

type Asking = Readonly<Record<string, (who: typeof ines) => Promise<unknown>>>;
const page = (more: object) => (who: typeof ines) =>
  must(openRecords(who, 'many', { sort: '-quantity', ...more }));
const asked: Asking = {
  'the first page by a column': page({}),
  'the newest first': page({ sort: '-number' }),
  'two conditions, one through a reference, counted': page({
    where: 'state in ("a") and bed.section = "Fern house"',
  }),
  'words in all columns': page({ find: 'frond 77777' }),
  'facets of everything': (who) => must(readFacets(who, 'many', { find: '', where: '', about: false })),
  'groups with their sums': (who) => must(readGroups(who, 'many', { find: '', where: '', by: 'state' })),
};
const OF_THE_COLUMN: Asking = {
  'a condition on the column, counted': page({ where: 'note = "note 7"' }),
};
const measure = async (asking: Asking, who: typeof ines): Promise<ReadonlyMap<string, number>> => {
  const took = new Map<string, number>();
  for (const [name, ask] of Object.entries(asking)) took.set(name, await timed(() => ask(who)));
  return took;
};

const before = await measure({ ...asked, ...OF_THE_COLUMN }, maren);
const { grants } = await must(whoOfTable(ines, 'many'));
await must(
  sayWhoOfTable(ines, 'many', {
    grants: [
      ...grants.map(({ action, role, groupId, personId, where, columns }) => ({
        action,
        role,
        groupId,
        personId,
        where,
        columns,
      })),
      {
        action: 'see-columns',
        role: 'steward',
        groupId: null,
        personId: null,
        where: null,
        columns: ['cmnote'],
      },
    ],
    seen: grants.map(({ id }) => id),
    restricted: ['cmnote'],
  }),
);
await makeWordsIndex({ table: many.id });
const seeing = await measure({ ...asked, ...OF_THE_COLUMN }, kofi);
const notSeeing = await measure(asked, maren);
for (const [name, was] of before) {
  const told = (now: number | undefined): string =>
    now === undefined ? 'not asked' : `${now.toFixed(1)} ms, ratio ${(now / was).toFixed(2)}`;
  console.log(
    `${ROWS} records, ${name}: ${was.toFixed(1)} ms; with a restricted column, whoever sees it ${told(seeing.get(name))}; whoever does not ${told(notSeeing.get(name))}`,
  );
}
await asIs('DROP TABLE records.many CASCADE');
await closeConnections();
