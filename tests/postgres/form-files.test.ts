import { beforeAll, describe, expect, it } from 'vitest';
import { takeIn } from '../../src/contract/form-file';
import { allQuestions } from '../../src/core/form/design';
import { createForm } from '../../src/use-cases/forms/create-form';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import {
  readAnswersSchema,
  readFormRelease,
  takeFormIn,
  takeFormOut,
} from '../../src/use-cases/forms/take-form';
import { as, formIds, must, newId, refusal, releaseSampleForms, useWorld } from '../support/world';

useWorld();
const id = formIds.treatment;
const sent = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

beforeAll(releaseSampleForms);

describe('a form as a file', () => {
  it('taken out and in again works, with tables of its own', async () => {
    const file = sent(await must(takeFormOut(as('Ines'), id)));
    const body = takeIn.parse({ id: newId(), file });
    const taken = await must(takeFormIn(as('Ines'), body));
    expect(taken.unknown).toEqual({ tables: [], people: [], groups: [] });
    // Sent again, because the answer was lost.
    expect((await must(takeFormIn(as('Ines'), body))).id).toBe(taken.id);
    const { design, version } = await must(openWorkbench(as('Ines'), taken.id));
    expect(allQuestions(design).map(({ key }) => key)).toEqual(
      allQuestions(file.design).map(({ key }) => key),
    );
    expect(design.table.key).toBe('treatments_2');
    expect(await must(releaseForm(as('Ines'), taken.id, { version, fill: 'everybody' }))).toEqual({
      number: 1,
    });
  });

  it('is for those who design it, and made by those who design', async () => {
    for (const read of [takeFormOut, readAnswersSchema])
      expect(await refusal(read(as('Maren'), id))).toMatchObject({ kind: 'forbidden' });
    expect(await refusal(takeFormIn(as('Maren'), { id: newId(), file: { schema: {} } }))).toMatchObject({
      kind: 'forbidden',
    });
    expect(await refusal(createForm(as('Maren'), { id: newId(), title: 'Mine', like: id }))).toMatchObject({
      kind: 'forbidden',
    });
    expect(takeIn.safeParse({ id: newId(), file: [] }).success).toBe(false);
  });

  it('that is spoilt is told where, and is not taken for a JSON Schema', async () => {
    const file = { ...sent(await must(takeFormOut(as('Ines'), id))), people: [{ id: 'nobody' }] };
    const read = takeIn.safeParse({ id: newId(), file });
    expect(read.error?.issues.map(({ path }) => path.join('.'))).toContain('file.people.0.id');
  });

  it('is made of a JSON Schema, with what has no place in it said', async () => {
    const file = {
      title: 'Loan',
      type: 'object',
      properties: { tool: { type: 'string' }, of: { type: 'object', properties: {} } },
    };
    const taken = await must(takeFormIn(as('Ines'), { id: newId(), file: { schema: file } }));
    expect(taken.notAsked).toEqual([{ path: 'of', why: 'nested' }]);
    const { design } = await must(openWorkbench(as('Ines'), taken.id));
    expect([design.title, allQuestions(design).map(({ key }) => key)]).toEqual(['Loan', ['tool']]);
  });
});

describe('a copy, and an earlier release', () => {
  it('is another form with the same questions', async () => {
    const copy = await must(createForm(as('Ines'), { id: newId(), title: 'Treatment, again', like: id }));
    const [one, two] = [
      await must(openWorkbench(as('Ines'), id)),
      await must(openWorkbench(as('Ines'), copy.id)),
    ];
    expect(two.design.title).toBe('Treatment, again');
    expect(two.design.checks.length).toBe(one.design.checks.length);
    const ids = new Set(allQuestions(one.design).map((question) => question.id));
    expect(allQuestions(two.design).some((question) => ids.has(question.id))).toBe(false);
  });

  it('is read with the one before it, and gone back to by an edit', async () => {
    const { design, version } = await must(openWorkbench(as('Ines'), id));
    const other = { ...design, title: 'Treatment wanted' };
    const edited = await must(editForm(as('Ines'), id, { version, design: other }));
    await must(releaseForm(as('Ines'), id, edited));
    const second = await must(readFormRelease(as('Ines'), id, 2));
    expect([second.design.title, second.before?.title]).toEqual(['Treatment wanted', design.title]);
    const first = await must(readFormRelease(as('Ines'), id, 1));
    expect(first.before).toBeNull();
    expect(await refusal(readFormRelease(as('Ines'), id, 9))).toMatchObject({ kind: 'not-found' });
    expect(await refusal(readFormRelease(as('Maren'), id, 1))).toMatchObject({ kind: 'forbidden' });
    const back = await must(editForm(as('Ines'), id, { version: edited.version, design: first.design }));
    expect(await must(releaseForm(as('Ines'), id, back))).toEqual({ number: 3 });
  });
});
