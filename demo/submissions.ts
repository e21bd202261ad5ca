import type { Person } from '../src/core/access/rules';
import type { Answers, Raw } from '../src/core/form/answers';
import type { Result } from '../src/core/kernel/result';
import type { Refusal } from '../src/core/kernel/refusal';
import { decideSubmission, withdrawSubmission } from '../src/use-cases/submissions/decide-submission';
import { saveDraft } from '../src/use-cases/submissions/save-draft';
import { sendSubmission } from '../src/use-cases/submissions/send-submission';
import { orderAnswers, visitAnswers } from './everyday-rows';
import type { Row } from './generate';
import { harvestAnswers } from './seed-harvest';
import { people, personNamed } from './people';
import type { Random } from './random';

/** Submissions in every state, made as people make them: through the use cases. */
interface Base {
  readonly beds: readonly Row[];
  readonly taxa: readonly Row[];
  readonly products: readonly Row[];
}

const HOUR = 3_600_000;
const TREATMENT = '01900000-0000-7000-a000-000000000001';
const INTAKE = '01900000-0000-7000-a000-000000000002';
const HARVEST = '01900000-0000-7000-a000-000000000007';
const ends = [
  'kept',
  'kept',
  'waiting',
  'half-way',
  'sent-back',
  'declined',
  'withdrawn',
  'draft',
  'again',
] as const;

/** The steps of each form, for those who play their approvers. */
const everyday = [
  {
    form: '01900000-0000-7000-a000-000000000004',
    senders: ['Maren', 'Kofi', 'Ilse'],
    approvers: ['Osei', 'Dagny'],
  },
  { form: '01900000-0000-7000-a000-000000000006', senders: ['Maren', 'Kofi'], approvers: ['Dagny'] },
] as const;

/** A few of what is sent every day, in every state. */
export async function loadEveryday(
  random: Random,
  now: Date,
  { suppliers, beds, taxa }: { readonly [kind in 'suppliers' | 'beds' | 'taxa']: readonly Row[] },
): Promise<void> {
  for (let i = 0; i < 18; i++) {
    const { form, senders, approvers } = everyday[i % 2 === 0 ? 0 : 1];
    await play({
      random,
      at: new Date(now.getTime() - (18 - i) * 5 * HOUR),
      sender: asPerson(personNamed(random.pick(senders)).id),
      form,
      answers: i % 2 === 0 ? orderAnswers(random, now, suppliers) : visitAnswers(random, now, beds),
      end: ends[i % ends.length] ?? 'kept',
      approvers,
    });
  }
  await play({
    random,
    at: new Date(now.getTime() - 3 * HOUR),
    sender: asPerson(personNamed('Ilse').id),
    form: everyday[0].form,
    answers: withSlip(orderAnswers(random, now, suppliers)),
    end: 'waiting',
    approvers: everyday[0].approvers,
  });
  for (let i = 0; i < 6; i++) {
    const at = new Date(now.getTime() - (6 - i) * 30 * HOUR);
    await play({
      random,
      at,
      sender: asPerson(personNamed(random.pick(['Maren', 'Ilse'])).id),
      form: HARVEST,
      answers: harvestAnswers(random, at, { beds, taxa }),
      end: 'kept',
      approvers: [],
    });
  }
}

/** Somebody typed two noughts too many. */
function withSlip(answers: Answers): Answers {
  const [line] = answers.rows['qsrlines'] ?? [];
  return line === undefined
    ? answers
    : { ...answers, rows: { qsrlines: [{ ...line, cells: { ...line.cells, qsrcount: '2000' } }] } };
}

export async function loadSubmissions(random: Random, now: Date, base: Base): Promise<void> {
  for (let i = 0; i < 64; i++) {
    const at = new Date(now.getTime() - (64 - i) * 3 * HOUR);
    const sender = random.pick([
      personNamed('Maren'),
      personNamed('Maren'),
      personNamed('Ilse'),
      personNamed('Kofi'),
    ]);
    const isTreatment = i % 3 !== 1;
    const answers = isTreatment ? treatment(random, now, base) : intake(random, now, base);
    const end = ends[(i + Math.floor(i / 9)) % ends.length] ?? 'kept';
    await play({
      random,
      at,
      sender: asPerson(sender.id),
      form: isTreatment ? TREATMENT : INTAKE,
      answers,
      end,
      approvers: isTreatment ? ['Tomasz', random.pick(['Ada', 'Pell', 'Ruo'])] : ['Ines'],
    });
  }
}

interface Play {
  readonly random: Random;
  readonly at: Date;
  readonly sender: Person;
  readonly form: string;
  readonly answers: Answers;
  readonly end: (typeof ends)[number];
  readonly approvers: readonly string[];
}

async function play({ random, at, sender, form, answers, end, approvers }: Play): Promise<void> {
  const id = random.id(at.getTime());
  const later = (hours: number) => new Date(at.getTime() + hours * HOUR);
  let { version } = must(await saveDraft({ person: sender, now: at }, id, { form, version: 0, answers }));
  if (end === 'draft') return;
  const send = async (now: Date) =>
    void ({ version } = must(
      await sendSubmission({ person: sender, now }, id, { key: random.id(now.getTime()), version }),
    ));
  const decide = async (
    name: string,
    decision: 'approve' | 'send-back' | 'decline',
    word: string,
    now: Date,
  ) => {
    const decided = must(
      await decideSubmission({ person: asPerson(personNamed(name).id), now }, id, {
        key: random.id(now.getTime()),
        version,
        decision,
        word,
      }),
    );
    version = decided.version;
    return decided.state;
  };
  await send(at);
  const first = approvers[0] ?? '';
  if (end === 'withdrawn')
    must(
      await withdrawSubmission({ person: sender, now: later(1) }, id, {
        key: random.id(at.getTime()),
        version,
      }),
    );
  if (end === 'kept')
    for (const [i, name] of approvers.entries())
      if ((await decide(name, 'approve', '', later(1 + i / 2))) !== 'waiting') break;
  if (end === 'half-way' && approvers.length > 1) await decide(first, 'approve', 'Fine with me.', later(1));
  if (end === 'declined') await decide(first, 'decline', 'Already done last week.', later(1));
  if (end === 'sent-back' || end === 'again')
    await decide(first, 'send-back', 'Please look at the first row again.', later(1));
  if (end === 'again') {
    ({ version } = must(
      await saveDraft({ person: sender, now: later(2) }, id, { form, version, answers: changed(answers) }),
    ));
    await send(later(2));
  }
}

function must<T>(result: Result<T, Refusal>): T {
  if (!result.ok) throw new Error(JSON.stringify(result.error));
  return result.value;
}

function asPerson(id: string): Person {
  const found = people.find((person) => person.id === id);
  if (found === undefined) throw new Error(`nobody has the id ${id}`);
  return found;
}

const idOf = (row: Row): string => String(row['id']);

function treatment(random: Random, now: Date, { beds, products }: Base): Answers {
  const bed = random.pick(beds.filter((one) => String(one['code']).startsWith('G4')));
  const lines = Array.from({ length: random.whole(1, 3) }, () => {
    const product = random.pick(products);
    const rate = Math.max(0.5, Math.round(Number(product['max_rate']) * 0.7 * 2) / 2);
    return { id: random.id(now.getTime()), cells: { qtrproduct: idOf(product), qtrrate: rate.toFixed(1) } };
  });
  const planned = new Date(now.getTime() + random.whole(2, 9) * 24 * HOUR).toISOString().slice(0, 10);
  const seen: Raw = random.pick([
    'Scale on the undersides',
    'Aphids on new growth',
    'Mildew near the door',
    null,
  ]);
  return {
    values: { qtrbed: idOf(bed), qtrplanned: planned, qtrclosed: random.chance(0.3), qtrseen: seen },
    rows: { qtrlines: lines },
    reasons: { qtrc2: 'A new delivery is on order for Friday.' },
  };
}

function intake(random: Random, now: Date, { beds, taxa }: Base): Answers {
  const plants = Array.from({ length: random.whole(2, 5) }, () => ({
    id: random.id(now.getTime()),
    cells: {
      qpitaxon: idOf(random.pick(taxa)),
      qpiquantity: String(random.whole(1, 40)),
      qpibed: idOf(random.pick(beds)),
      qpistate: 'growing_on',
    },
  }));
  const received = new Date(now.getTime() - random.whole(9, 12) * 24 * HOUR).toISOString().slice(0, 10);
  return {
    values: {
      qpireceived: received,
      qpigiver: 'Harbour Garden Exchange',
      qpisource: 'exchange',
      qpiabroad: false,
    },
    rows: { qpiplants: plants },
    reasons: {},
  };
}

/** What a sender mends after a word: a lower rate, another quantity. */
function changed(answers: Answers): Answers {
  const rows = Object.fromEntries(
    Object.entries(answers.rows).map(([group, list]) => [
      group,
      list.map((row, i) => {
        const { qtrrate, qpiquantity, qsrcount } = row.cells;
        if (i > 0) return row;
        return {
          ...row,
          cells: {
            ...row.cells,
            ...(qtrrate !== undefined && { qtrrate: (Number(qtrrate) - 0.5).toFixed(1) }),
            ...(qsrcount !== undefined && { qsrcount: String(Number(qsrcount) + 1) }),
            ...(qpiquantity !== undefined && { qpiquantity: String(Number(qpiquantity) + 2) }),
          },
        };
      }),
    ]),
  );
  const { qsvchildren } = answers.values;
  const values = {
    ...answers.values,
    ...(qsvchildren !== undefined && { qsvchildren: String(Number(qsvchildren) - 2) }),
  };
  return { ...answers, values, rows };
}
