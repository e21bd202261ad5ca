import { createHash } from 'node:crypto';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { personNamed } from '../../demo/people';
import { beds } from '../../demo/tables';
import type { OutsideData } from '../../src/contract/outside';
import { noAnswers, type Answers } from '../../src/core/form/answers';
import type { ApprovalStep, FieldQuestion, FormDesign } from '../../src/core/form/design';
import { ok } from '../../src/core/kernel/result';
import { storedList } from '../../src/core/table/kinds/stored-list';
import { foundProof } from '../../src/core/outside/proof';
import { followSecret } from '../../src/data/secret';
import { insertForm, readForm } from '../../src/data/system/forms';
import { asOwner, asPerson } from '../../src/data/transaction';
import { withVisit } from '../../src/data/way-in';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { asVisitor, comeBack, comeByLink, type Visitor } from '../../src/use-cases/outside/come-in';
import {
  eachFromOutside,
  nameFromOutside,
  openFollowed,
  openForm,
  searchFromOutside,
  sendAgain,
  sendFromOutside,
  withdrawFromOutside,
} from '../../src/use-cases/outside/fill-from-outside';
import { mailNotices } from '../../src/use-cases/notices/mail-notices';
import type { Mailer, Posted } from '../../src/outside/mail';
import {
  announceFromOutside,
  bringFromOutside,
  describeFromOutside,
  finishFromOutside,
} from '../../src/use-cases/outside/files-from-outside';
import sharp from 'sharp';
import { addLink, endLink, outsideOf, sayOutside } from '../../src/use-cases/outside/keep-outside';
import { openPeople } from '../../src/use-cases/people/read-people';
import { openRecords } from '../../src/use-cases/records/open-records';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { openHome } from '../../src/use-cases/submissions/open-home';
import { openNewSheet, openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { searchLookup } from '../../src/use-cases/submissions/search-lookup';
import { as, must, newId, poolAt, refusal, useWorld } from '../support/world';

// How long a proof takes is no matter here, and a journey looks for a whole one.
vi.mock(import('../../src/core/limits'), async (original) => {
  const { limits } = await original();
  return { limits: { ...limits, proofBits: 8 } as unknown as typeof limits };
});

/** People without an account fill one form by a link, and nothing else of the workspace answers to them. */
const world = useWorld();
const ines = personNamed('Ines').id;
const { now } = as('Ines');

const what: FieldQuestion = {
  id: 'qwhat',
  key: 'what',
  label: 'What did you see?',
  hint: '',
  required: true,
  kind: 'text',
  long: false,
};
const where: FieldQuestion = {
  id: 'qwhere',
  key: 'bed',
  label: 'In which bed?',
  hint: '',
  required: false,
  kind: 'lookup',
  table: beds.id,
  show: ['cbedname'],
};
const byTomasz: ApprovalStep = { id: 'look', label: 'Look at it', people: [personNamed('Tomasz').id] };

interface Made {
  readonly form: string;
  readonly key: string;
  readonly table: string;
}

async function formOf(
  questions: readonly FieldQuestion[],
  steps: readonly ApprovalStep[] = [],
): Promise<Made> {
  const id = newId();
  const key = `f${id.slice(0, 8)}${id.slice(-4)}`;
  const table = newId();
  const design: FormDesign = {
    format: 1,
    title: 'What visitors saw',
    area: '',
    sections: [{ id: 's1', title: '', questions }],
    checks: [],
    steps,
    table: { id: table, key, label: key, prefix: 'VS' },
  };
  await asOwner({ person: ines }, async (tx) => {
    await insertForm(tx, { id, key, ownerId: ines, editedBy: ines, design });
    return ok(null);
  });
  await must(releaseForm(as('Ines'), id, { version: 1, allow: [], fill: 'everybody', note: '' }));
  return { form: id, key, table };
}

const said = {
  version: 0,
  welcome: 'Hello',
  thanks: 'Thank you',
  lookups: ['qwhere'],
  origins: [],
  mailTo: null,
  language: null,
};

async function linkTo(form: string, more: { most?: number; until?: string } = {}): Promise<string> {
  const data = await must(
    addLink(as('Ines'), form, { id: newId(), label: 'Garden website', until: null, most: null, ...more }),
  );
  return secretOf(data);
}
const secretOf = ({ links }: OutsideData): string => links[0]?.address.split('/').at(-1) ?? '';

const answers = (text: string): Answers => ({ ...noAnswers, values: { qwhat: text } });
const sha256 = (text: string): Uint8Array => createHash('sha256').update(text).digest();
const proofOf = (link: string, submission: string): number =>
  foundProof(sha256, { link, submission }, 0, 50_000_000) ?? -1;

async function come(secret: string, submission = newId()): Promise<Visitor> {
  return must(comeByLink(secret, now, submission));
}
/** Sends something; gives by what it is followed. */
async function sent(secret: string, text: string): Promise<{ id: string; follow: string; number: string }> {
  const id = newId();
  const done = await must(
    sendFromOutside(await come(secret, id), {
      id,
      key: newId(),
      answers: answers(text),
      proof: proofOf(secret, id),
    }),
  );
  return { id, follow: done.follow, number: done.number };
}

let seen: Made;
let link = '';
beforeAll(async () => {
  seen = await formOf([what, where], [byTomasz]);
  await must(sayOutside(as('Ines'), seen.form, said));
  link = await linkTo(seen.form);
}, 60_000);

describe('a link', () => {
  it('is made, said and stopped by those who design the form', async () => {
    const one = { id: newId(), label: 'Mine', until: null, most: null };
    for (const name of ['Maren', 'Kofi']) {
      expect(await refusal(outsideOf(as(name), seen.form))).toMatchObject({ kind: 'forbidden' });
      expect(await refusal(addLink(as(name), seen.form, one))).toMatchObject({ kind: 'forbidden' });
      expect(await refusal(sayOutside(as(name), seen.form, said))).toMatchObject({ kind: 'forbidden' });
    }
    const { form } = await formOf([what]);
    const [made] = (await must(addLink(as('Ines'), form, one))).links;
    expect(made).toMatchObject({ label: 'Mine', madeBy: 'Ines Okafor', state: 'open', sent: 0 });
    // Of another form it is none of theirs.
    expect(await refusal(endLink(as('Ines'), seen.form, one.id))).toMatchObject({ kind: 'not-found' });
    const secret = made?.address.split('/').at(-1) ?? '';
    await must(openForm(await come(secret)));
    await must(endLink(as('Ines'), form, one.id));
    expect(await refusal(comeByLink(secret, now))).toEqual({ kind: 'forbidden', why: 'link-stopped' });
  });

  it('is refused where its day is over, its words change under somebody, or a site is none', async () => {
    const { form } = await formOf([what]);
    const one = { id: newId(), label: 'Until', most: null };
    expect(await refusal(addLink(as('Ines'), form, { ...one, until: '2026-11-22' }))).toMatchObject({
      issues: [{ code: 'day-is-over', path: ['until'] }],
    });
    const until = secretOf(await must(addLink(as('Ines'), form, { ...one, until: '2026-11-23' })));
    expect((await comeByLink(until, new Date('2026-11-24T04:00:00Z'))).ok).toBe(false);
    expect((await comeByLink(until, now)).ok).toBe(true);
    const version = (await must(outsideOf(as('Ines'), form))).version;
    await must(sayOutside(as('Ines'), form, { ...said, lookups: [], version }));
    expect(await refusal(sayOutside(as('Ines'), form, { ...said, lookups: [], version }))).toMatchObject({
      kind: 'stale',
      why: 'outside-changed',
    });
    const sites = { ...said, version: version + 1, origins: ['https://quillmere.example', 'quillmere'] };
    expect(await refusal(sayOutside(as('Ines'), form, sites))).toMatchObject({
      issues: [{ code: 'not-a-site', path: ['origins', 1] }],
    });
  });

  it('leads nowhere by a guess', async () => {
    for (const guess of ['', 'x', `${link.slice(0, -1)}~`, link.slice(1), '../..', 'a'.repeat(43)])
      expect(await refusal(comeByLink(guess, now))).toEqual({ kind: 'forbidden', why: 'link' });
  });

  it('is closed while a later release shows what nobody opened', async () => {
    const { form } = await formOf([what]);
    const secret = await linkTo(form);
    await must(openForm(await come(secret)));
    const designed = await must(
      asPerson({ person: ines }, async (tx, catalogue) => ok(await readForm(tx, catalogue, form))),
    );
    const design = { ...designed!.design, sections: [{ id: 's1', title: '', questions: [what, where] }] };
    const { version } = await must(editForm(as('Ines'), form, { version: designed!.version, design }));
    await must(releaseForm(as('Ines'), form, { version, allow: [], note: '' }));
    expect(await refusal(openForm(await come(secret)))).toEqual({ kind: 'forbidden', why: 'link-waits' });
    const id = newId();
    const sending = { id, key: newId(), answers: answers('x'), proof: proofOf(secret, id) };
    expect(await refusal(sendFromOutside(await come(secret, id), sending))).toMatchObject({
      why: 'link-waits',
    });
    const now1 = await must(outsideOf(as('Ines'), form));
    expect(now1.shows).toEqual([
      {
        id: 'qwhere',
        label: 'In which bed?',
        table: 'Beds',
        columns: expect.arrayContaining(['Name']),
        read: [],
      },
    ]);
    await must(sayOutside(as('Ines'), form, { ...said, version: now1.version }));
    await must(openForm(await come(secret)));
  });
});

describe('whoever comes by it', () => {
  it('meets the form, and nothing of how the house works', async () => {
    const met = await must(openForm(await come(link)));
    expect(met).toMatchObject({ welcome: 'Hello', thanks: 'Thank you', link });
    const told = JSON.stringify(met);
    expect(met.sheet.design.steps).toEqual([]);
    expect(told).not.toContain('Tomasz');
    expect(told).not.toContain(personNamed('Tomasz').id);
    expect(told).not.toContain('Ines');
    expect(told).not.toContain('@quillmere');
    // Of the table that is looked up, what names a bed and what the form shows of it.
    const table = met.sheet.tables.find(({ id }) => id === beds.id);
    expect(table?.columns.map(({ id }) => id).toSorted()).toEqual(['cbedcode', 'cbedname']);
  });

  it('looks up what was opened, and nothing else', async () => {
    const visitor = await come(link);
    await world.sql(
      `INSERT INTO records.beds (code, name, section, area) VALUES ('F1', 'Ferns', 'Fern house', 1)`,
    );
    const found = await must(searchFromOutside(visitor, { question: 'qwhere', asks: { search: '' } }));
    expect(found).toMatchObject({ addsTo: null, options: [{ title: expect.stringContaining('F1') }] });
    for (const question of ['qwhat', 'nothing', '']) {
      const asks = { search: '' };
      expect(await refusal(searchFromOutside(visitor, { question, asks }))).toMatchObject({
        what: 'question',
      });
      expect(await refusal(nameFromOutside(visitor, { question, asks: { texts: ['x'] } }))).toBeDefined();
      expect(await refusal(eachFromOutside(visitor, { question, asks: {} }))).toBeDefined();
    }
    // Another form's lookups are not reached by this link, whatever is asked past its door.
    const other = await formOf([what, where]);
    const beyond = await asVisitor(visitor, (context) =>
      searchLookup(context, { form: other.form, question: 'qwhere', submission: null, search: '' }),
    );
    expect(beyond).toMatchObject({ ok: false, error: { kind: 'not-found' } });
  });

  it('sends once, under the name of the link, and is followed by whoever sent it alone', async () => {
    const id = newId();
    const sending = { id, key: newId(), answers: answers('A heron'), proof: proofOf(link, id) };
    const one = await must(sendFromOutside(await come(link, id), sending));
    expect(one).toMatchObject({ state: 'waiting', follow: `${id}.${followSecret(id)}` });
    // Sent again, because the answer was lost.
    expect(await must(sendFromOutside(await come(link, id), sending))).toEqual(one);
    const [row] = await world.sql(`SELECT count(*)::int AS n FROM slate.submission WHERE id = $1`, [id]);
    expect(row).toEqual({ n: 1 });
    const followed = await must(openFollowed(await must(comeBack(one.follow, now))));
    expect(followed).toMatchObject({ number: one.number, state: 'waiting', word: '' });
    expect(JSON.stringify(followed)).not.toContain('Tomasz');
    // To whoever decides, it is from the link.
    const shown = await must(openSubmission(as('Tomasz'), id));
    expect(shown.submission?.sender).toMatchObject({ name: 'Garden website', place: 'from outside' });
    const other = await sent(link, 'A fox');
    for (const guess of [
      `${id}.${followSecret(other.id)}`,
      `${id}.`,
      `${id}`,
      `${newId()}.${followSecret(id)}`,
    ])
      expect(await refusal(comeBack(guess, now))).toEqual({ kind: 'forbidden', why: 'link' });
    // A submission of a colleague is followed by nobody from outside.
    expect((await must(openHome(as('Maren')))).mine).toEqual([]);
  });

  it('changes nothing of what others sent, whoever knows its id', async () => {
    const { form } = await formOf([what], [byTomasz]);
    const secret = await linkTo(form);
    const one = await sent(secret, 'Mine');
    await world.sql(`UPDATE slate.submission SET state = 'sent-back' WHERE id = $1`, [one.id]);
    const theirs = { id: one.id, key: newId(), answers: answers('Mine'), proof: proofOf(secret, one.id) };
    expect(await refusal(sendFromOutside(await come(secret, one.id), theirs))).toMatchObject({
      kind: 'not-found',
      what: 'submission',
    });
  });

  it('is asked for a proof of each submission anew', async () => {
    const [id, other] = [newId(), newId()];
    const proof = proofOf(link, id);
    const sending = { id: other, key: newId(), answers: answers('x'), proof };
    expect(await refusal(sendFromOutside(await come(link, other), sending))).toEqual({
      kind: 'forbidden',
      why: 'proof',
    });
  });

  it('leaves nothing behind where it cannot be sent', async () => {
    const id = newId();
    const sending = { id, key: newId(), answers: noAnswers, proof: proofOf(link, id) };
    const before = await world.sql(`SELECT sent FROM slate.form_link WHERE secret = $1`, [link]);
    expect(await refusal(sendFromOutside(await come(link, id), sending))).toMatchObject({
      kind: 'invalid',
      issues: [{ path: ['qwhat'] }],
    });
    expect(await world.sql(`SELECT 1 FROM slate.submission WHERE id = $1`, [id])).toEqual([]);
    expect(await world.sql(`SELECT sent FROM slate.form_link WHERE secret = $1`, [link])).toEqual(before);
  });

  it('takes the places there are, also where many send at the same moment', async () => {
    const { form } = await formOf([what]);
    const secret = await linkTo(form, { most: 3 });
    const ids = Array.from({ length: 8 }, () => newId());
    const visitors = await Promise.all(ids.map((id) => come(secret, id)));
    const done = await Promise.all(
      visitors.map((visitor, i) => {
        const id = ids[i] ?? '';
        const sending = { id, key: newId(), answers: answers(`${i}`), proof: proofOf(secret, id) };
        return sendFromOutside(visitor, sending);
      }),
    );
    expect(done.filter((one) => one.ok)).toHaveLength(3);
    expect(done.flatMap((one) => (one.ok ? [] : [one.error]))).toEqual(
      Array.from({ length: 5 }, () => ({ kind: 'forbidden', why: 'link-full' })),
    );
    expect(await refusal(comeByLink(secret, now))).toEqual({ kind: 'forbidden', why: 'link-full' });
  });

  it('answers what was sent back, and takes back what is not decided, also once the link is over', async () => {
    const { form } = await formOf([what], [byTomasz]);
    const added = await must(
      addLink(as('Ines'), form, { id: newId(), label: 'Gate', until: null, most: null }),
    );
    const secret = secretOf(added);
    const one = await sent(secret, 'Somthing');
    const two = await sent(secret, 'Else');
    await must(endLink(as('Ines'), form, added.links[0]?.id ?? ''));
    const version = async (id: string) =>
      Number((await world.sql(`SELECT version FROM slate.submission WHERE id = $1`, [id]))[0]?.['version']);
    const decide = async (id: string, decision: 'send-back' | 'approve', word = '') =>
      decideSubmission(as('Tomasz'), id, { key: newId(), version: await version(id), decision, word });
    await must(decide(one.id, 'send-back', 'Spell it'));
    const back = await must(comeBack(one.follow, now));
    expect(await must(openFollowed(back))).toMatchObject({ state: 'sent-back', word: 'Spell it' });
    await must(
      sendAgain(back, { key: newId(), version: await version(one.id), answers: answers('Something') }),
    );
    await must(decide(one.id, 'approve'));
    expect(await must(openFollowed(back))).toMatchObject({ state: 'kept' });
    const other = await must(comeBack(two.follow, now));
    await must(withdrawFromOutside(other, { key: newId(), version: await version(two.id) }));
    expect(await must(openFollowed(other))).toMatchObject({ state: 'withdrawn' });
  });
});

describe('a file from outside', () => {
  const photos: FieldQuestion = {
    id: 'qphotos',
    key: 'photos',
    label: 'Photos',
    hint: '',
    required: false,
    kind: 'files',
    what: 'photos',
    most: 3,
  };

  it('is of one sheet: nobody else who came by the link sees, finishes or sends it', async () => {
    const { form } = await formOf([what, photos]);
    const secret = await linkTo(form);
    const bytes = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#3a7' } })
      .jpeg()
      .toBuffer();
    const [mine, theirs] = [newId(), newId()];
    const [me, them] = [await come(secret, mine), await come(secret, theirs)];
    const file = newId();
    await must(announceFromOutside(me, file, { name: 'heron.jpg', size: bytes.length, question: 'qphotos' }));
    expect(await refusal(bringFromOutside(them, file, 0, bytes))).toMatchObject({ what: 'file' });
    await must(bringFromOutside(me, file, 0, bytes));
    expect(await refusal(finishFromOutside(them, file, { question: 'qphotos' }))).toMatchObject({
      what: 'file',
    });
    expect(await must(finishFromOutside(me, file, { question: 'qphotos' }))).toMatchObject({ id: file });
    expect((await must(describeFromOutside(me, [file]))).files).toHaveLength(1);
    expect((await must(describeFromOutside(them, [file]))).files).toEqual([]);
    // Not what it says it is; and an answer that asks for none.
    const wrong = newId();
    await must(announceFromOutside(me, wrong, { name: 'x.jpg', size: 4, question: 'qphotos' }));
    await must(bringFromOutside(me, wrong, 0, Buffer.from('<b>x')));
    expect(await refusal(finishFromOutside(me, wrong, { question: 'qphotos' }))).toMatchObject({
      kind: 'invalid',
    });
    expect(
      await refusal(announceFromOutside(me, newId(), { name: 'x', size: 4, question: 'qwhat' })),
    ).toMatchObject({ what: 'question' });
    const withFile: Answers = { ...noAnswers, values: { qwhat: 'A heron', qphotos: storedList([file]) } };
    const send = (visitor: Visitor, id: string) =>
      sendFromOutside(visitor, { id, key: newId(), answers: withFile, proof: proofOf(secret, id) });
    expect(await refusal(send(them, theirs))).toMatchObject({
      kind: 'invalid',
      issues: [{ path: ['qphotos'] }],
    });
    await must(send(me, mine));
    const [row] = await world.sql(
      `SELECT submission_id, record_id IS NOT NULL AS kept FROM slate.file WHERE id = $1`,
      [file],
    );
    expect(row).toEqual({ submission_id: mine, kept: true });
  });
});

describe('a mail', () => {
  const address: FieldQuestion = {
    id: 'qmail',
    key: 'email',
    label: 'E-mail',
    hint: '',
    required: false,
    kind: 'e-mail',
  };

  it('tells whoever gave an address what becomes of it, once, with the address it is followed at', async () => {
    const { form } = await formOf([what, address], [byTomasz]);
    await must(sayOutside(as('Ines'), form, { ...said, lookups: [], mailTo: 'qmail', language: null }));
    const data = await must(outsideOf(as('Ines'), form));
    expect(data.addresses).toEqual([{ id: 'qmail', label: 'E-mail' }]);
    const secret = await linkTo(form);
    const given = (mail: string): Answers => ({ ...noAnswers, values: { qwhat: 'A heron', qmail: mail } });
    const [id, other] = [newId(), newId()];
    for (const [one, mail] of [
      [id, 'jo.field@hill-lane.example'],
      [other, ''],
    ] as const)
      await must(
        sendFromOutside(await come(secret, one), {
          id: one,
          key: newId(),
          answers: given(mail),
          proof: proofOf(secret, one),
        }),
      );
    const taken: { to: string; subject: string; text: string; id: string }[] = [];
    let answers: Posted = 'later';
    const by: Mailer = {
      send: ({ email }, { subject, text }, id) => {
        if (answers === 'sent' && email.endsWith('hill-lane.example'))
          taken.push({ to: email, subject, text, id });
        return Promise.resolve(email.endsWith('hill-lane.example') ? answers : 'sent');
      },
      close: () => undefined,
    };
    const real = new Date(now.getTime() + 60_000);
    await mailNotices(real, by);
    expect(taken).toEqual([]);
    answers = 'sent';
    await Promise.all([mailNotices(real, by), mailNotices(real, by), mailNotices(real, by)]);
    expect(taken.map(({ to }) => to)).toEqual(['jo.field@hill-lane.example']);
    expect(taken[0]?.text).toContain(`/followed?in=en#${id}.${followSecret(id)}`);
    const [{ version } = {}] = await world.sql(`SELECT version FROM slate.submission WHERE id = $1`, [id]);
    await must(
      decideSubmission(as('Tomasz', real), id, {
        key: newId(),
        version: Number(version),
        decision: 'decline',
        word: 'No herons here',
      }),
    );
    await mailNotices(real, by);
    expect(taken.map(({ subject }) => subject)).toEqual([
      expect.stringMatching(/has arrived$/),
      expect.stringMatching(/was declined$/),
    ]);
    expect(taken[1]?.text).toContain('> No herons here');
    await mailNotices(real, by);
    expect(taken).toHaveLength(2);
  });
});

describe('the database', () => {
  it('shows a visitor their own submission, and to the name of a link without a visit none', async () => {
    const [one, other] = [await sent(link, 'One'), await sent(link, 'Other')];
    const [{ person_id: person } = {}] = await world.sql(
      `SELECT person_id FROM slate.form_link WHERE secret = $1`,
      [link],
    );
    const pool = poolAt(world.appUrl);
    const asked = async (visit: string | null): Promise<unknown[]> => {
      const client = await pool.connect();
      try {
        await client.query('BEGIN');
        await client.query(
          `SELECT set_config('slate.person', $1, true), set_config('slate.visit', $2, true)`,
          [person, visit ?? ''],
        );
        return (await client.query(`SELECT id FROM slate.submission`)).rows;
      } finally {
        await client.query('ROLLBACK');
        client.release();
      }
    };
    expect(await asked(one.id)).toEqual([{ id: one.id }]);
    expect(await asked(other.id)).toEqual([{ id: other.id }]);
    expect(await asked(null)).toEqual([]);
    expect(await asked(newId())).toEqual([]);
    await pool.end();
  });

  it('gives a visitor no table, no list of submissions, no other form and no people', async () => {
    const visitor = await come(link);
    const other = await formOf([what]);
    await asVisitor(visitor, async (context) => {
      expect(await refusal(openRecords(context, 'beds', {} as never))).toMatchObject({ kind: 'not-found' });
      expect(await refusal(openNewSheet(context, other.key))).toMatchObject({ kind: 'not-found' });
      expect((await must(openHome(context))).mine).toEqual([]);
      expect((await must(openHome(context))).forms.map(({ id }) => id)).toEqual([seen.form]);
      expect(await refusal(openPeople(context))).toMatchObject({ kind: 'forbidden' });
      expect(await refusal(outsideOf(context, seen.form))).toMatchObject({ kind: 'forbidden' });
    });
    // Without a visit the name of the link may nothing at all, as anybody who has left.
    const person = visitor.context;
    expect(await refusal(openNewSheet(person, seen.key))).toMatchObject({ kind: 'not-found' });
    const elsewhere = await withVisit({ ...visitor.visit, form: other.form }, () =>
      openNewSheet(person, other.key),
    );
    const put = await withVisit({ ...visitor.visit, form: other.form }, () =>
      asPerson({ person: person.person.id }, async (tx) => {
        await tx.execute(
          `INSERT INTO slate.submission (id, form_id, release_id, state, sender_id, answers) SELECT '${visitor.visit.submission}', f.id, r.id, 'draft', '${person.person.id}', '{}' FROM slate.form f JOIN slate.form_release r ON r.form_id = f.id WHERE f.id = '${other.form}'`,
        );
        return ok(null);
      }),
    ).catch(() => null);
    expect(elsewhere.ok).toBe(true);
    expect(put).toBeNull();
  });

  it('lists no link among people', async () => {
    const people = await must(openPeople(as('Wren')));
    expect(people.people.filter(({ name }) => name === 'Garden website')).toEqual([]);
  });
});
