import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { personNamed } from '../demo/people';
import type { Answers } from '../src/core/form/answers';
import { differenceOf } from '../src/core/form/change/design-difference';
import { mergedDesigns } from '../src/core/form/change/merged-designs';
import { designIssues } from '../src/core/form/design-issues';
import type { FormDesign } from '../src/core/form/design';
import { replaceQuestion } from '../src/core/form/edit';
import { ok } from '../src/core/kernel/result';
import { closeConnections } from '../src/data/connect';
import { asOwner } from '../src/data/transaction';
import { keepExample, playExamples } from '../src/use-cases/forms/examples';
import { rehearseForm } from '../src/use-cases/forms/rehearse-form';
import { saveDraft } from '../src/use-cases/submissions/save-draft';
import { sendSubmission } from '../src/use-cases/submissions/send-submission';
import { largeForm } from './large-form';
import { must } from './many';
import { middle, perCall } from './timing';

/** What designing costs: an edit of a large form, a rehearsal against the sending it stands for, and the playing of many examples. */
const TREATMENT = '01900000-0000-7000-a000-000000000001';
const ROUNDS = 60;
const EXAMPLES = 100;
const now = new Date();
const [ines, maren] = [personNamed('Ines'), personNamed('Maren')].map((person) => ({ person, now }));
if (ines === undefined || maren === undefined) throw new Error('the sample world has its people');

let at = 0;
const typed = (design: FormDesign): FormDesign =>
  replaceQuestion(design, 'qw30', (one) => ({ ...one, label: `Question ${String(at++)}` }));
const theirs = replaceQuestion(largeForm, 'qw3', (one) => ({ ...one, hint: 'Theirs' }));
const ms = (value: number): string => value.toFixed(2);
console.log(
  `a letter in a form of 60 questions and 40 checks: compared ${ms(perCall(300, () => differenceOf(largeForm, typed(largeForm))))} ms, ` +
    `brought together with somebody else's ${ms(perCall(300, () => mergedDesigns(largeForm, typed(largeForm), theirs)))} ms, ` +
    `read for what is wrong ${ms(perCall(60, () => designIssues(typed(largeForm), new Map(), new Set())))} ms`,
);

const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const began = performance.now();
  await work();
  return performance.now() - began;
};
const past = await must(
  asOwner<{ answers: Answers }>({ person: ines.person.id }, async (tx) => {
    const { rows } = await tx.execute<{ answers: Answers }>(
      sql`SELECT sent_answers AS answers FROM slate.submission WHERE form_id = ${TREATMENT}::uuid AND state = 'kept' AND of_record IS NULL ORDER BY sent_at DESC LIMIT 1`,
    );
    const [row] = rows;
    if (row === undefined) throw new Error('no treatment was ever kept');
    return ok({ answers: row.answers });
  }),
);
const day = new Date(now.getTime() + 3 * 86_400_000).toISOString().slice(0, 10);
const answers: Answers = {
  ...past.answers,
  values: { ...past.answers.values, qtrplanned: day },
  reasons: { qtrc1: 'bench', qtrc2: 'bench', qtrc3: 'bench' },
};

const [sendings, rehearsals]: [number[], number[]] = [[], []];
for (let i = 0; i < ROUNDS; i++) {
  const id = randomUUID();
  const { version } = await must(saveDraft(maren, id, { form: TREATMENT, version: 0, answers }));
  const sending = await timed(() => must(sendSubmission(maren, id, { key: randomUUID(), version })));
  const rehearsal = await timed(async () => {
    const told = await must(rehearseForm(ines, TREATMENT, { as: maren.person.id, at: null, answers }));
    if (told.issues.length > 0 || told.records.length === 0) throw new Error(JSON.stringify(told.issues));
  });
  // The first ones warm up what both share.
  if (i < 10) continue;
  sendings.push(sending);
  rehearsals.push(rehearsal);
}
console.log(
  `a rehearsal ${ms(middle(rehearsals))} ms, the sending it stands for ${ms(middle(sendings))} ms, ratio ${ms(middle(rehearsals) / middle(sendings))}`,
);

for (let i = 0; i < EXAMPLES; i++)
  await must(
    keepExample(ines, TREATMENT, randomUUID(), {
      label: `Example ${i}`,
      as: maren.person.id,
      at: null,
      answers,
    }),
  );
const playing = await timed(async () => {
  const { examples } = await must(playExamples(ines, TREATMENT));
  if (examples.length !== EXAMPLES || examples.some(({ differs }) => differs.length > 0))
    throw new Error('the examples end differently');
});
console.log(`${EXAMPLES} kept examples played in ${(playing / 1000).toFixed(2)} s`);
await closeConnections();
