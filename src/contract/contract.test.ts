import { describe, expect, it } from 'vitest';
import { bedInspection, plantIntake, treatmentRequest } from '../../demo/forms';
import { full } from '../../tests/support/designs';
import { decideSubmission, liveTopic, newForm, pageOfRecords, saveDraft } from './requests';
import { answers } from './stored/answers';
import { formDesign } from './stored/form-design';

describe('what is stored has the shape the core reads', () => {
  it('takes the sample designs as they are', () => {
    for (const design of [treatmentRequest, plantIntake, bedInspection])
      expect(formDesign.parse(design)).toEqual(design);
  });

  it('takes unfinished drafts, and refuses what no interface of ours writes', () => {
    const unfinished = { ...treatmentRequest, title: '', sections: [{ id: 'qs', title: '', questions: [] }] };
    expect(formDesign.safeParse(unfinished).success).toBe(true);
    for (const wrong of [
      { ...treatmentRequest, extra: 1 },
      { ...treatmentRequest, format: 2 },
      { ...treatmentRequest, sections: [] },
      { ...treatmentRequest, table: { ...treatmentRequest.table, id: 'x' } },
      {
        ...unfinished,
        sections: [
          {
            id: 'qs',
            title: '',
            questions: [{ id: 'q1', key: 'a', label: '', hint: '', required: true, kind: 'telepathy' }],
          },
        ],
      },
    ])
      expect(formDesign.safeParse(wrong).success).toBe(false);
  });

  it('keeps typed text of any kind, and bounds its length and the names it stands under', () => {
    expect(answers.parse(full)).toEqual(full);
    expect(answers.safeParse({ ...full, values: { q: 'x'.repeat(50_000) } }).success).toBe(false);
    for (const name of ['', 'a b', 'a\u0000', '__proto__ x', 'x'.repeat(61)])
      expect(answers.safeParse({ ...full, values: { [name]: 'x' } }).success).toBe(false);
    expect(answers.safeParse({ ...full, values: { q: 1 } }).success).toBe(false);
    expect(answers.safeParse({ ...full, rows: { g: [{ id: 'r1', cells: { c: null } }] } }).success).toBe(
      true,
    );
  });
});

describe('requests', () => {
  const id = '01900000-0000-7000-8000-000000000001';

  it('trim, default and bound', () => {
    expect(newForm.parse({ id, title: '  Tool loan ' })).toEqual({ id, title: 'Tool loan' });
    expect(newForm.safeParse({ id, title: '   ' }).success).toBe(false);
    expect(pageOfRecords.parse({})).toEqual({
      sort: '-number',
      columns: '',
      via: 'rows',
      find: '',
      where: '',
    });
    expect(pageOfRecords.safeParse({ after: '0' }).success).toBe(false);
    expect(decideSubmission.safeParse({ key: id, version: 1, decision: 'maybe', word: '' }).success).toBe(
      false,
    );
    expect(saveDraft.safeParse({ form: id, version: -1, answers: full }).success).toBe(false);
  });

  it('name only topics there are', () => {
    expect(
      ['forms', 'lists', `table:${id}`, `submission:${id}`].every(
        (topic) => liveTopic.safeParse(topic).success,
      ),
    ).toBe(true);
    expect(
      ['person:x', `person:${id}`, 'table:', 'everything', `table:${id}; drop`].some(
        (topic) => liveTopic.safeParse(topic).success,
      ),
    ).toBe(false);
  });
});
