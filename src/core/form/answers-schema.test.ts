import { describe, expect, it } from 'vitest';
import { everydayForms } from '../../../demo/everyday-forms';
import { bedInspection, plantIntake, treatmentRequest } from '../../../demo/forms';
import type { JsonSchema } from '../kernel/json-schema';
import { answersSchema } from './answers-schema';
import { allQuestions, isField, isTyped, questionsOf, type Question } from './design';
import { questionsOfSchema } from './from-schema';

const tableFor = (key: string, label: string) => ({
  id: '01900000-0000-7000-8000-000000000009',
  key,
  label,
  prefix: 'X',
});
const designs = [treatmentRequest, plantIntake, bedInspection, ...everydayForms.map(({ design }) => design)];

describe('answers as JSON Schema', () => {
  it('names every answer that is typed, by its key, and nothing else', () => {
    for (const design of designs) {
      const schema = answersSchema(design);
      const keys = questionsOf(design)
        .filter((one) => (one.kind === 'rows' ? one.within === undefined : isField(one) && isTyped(one)))
        .map(({ key }) => key);
      expect(Object.keys(schema['properties'] as object)).toEqual(keys);
      expect(schema['$schema']).toBe('https://json-schema.org/draft/2020-12/schema');
      expect(JSON.parse(JSON.stringify(schema))).toEqual(schema);
    }
  });

  it('read back asks the same: the same keys, words and kinds', () => {
    for (const design of designs) {
      const { questions, notAsked, title } = questionsOfSchema(answersSchema(design), tableFor);
      expect([notAsked, title]).toEqual([[], design.title]);
      const typed = allQuestions(design).filter(
        (one) => one.kind === 'rows' || (isField(one) && isTyped(one)),
      );
      const back = questions.flatMap((one): Question[] =>
        one.kind === 'rows' ? [one, ...one.columns] : [one],
      );
      const alike: Readonly<Record<string, string>> = { money: 'decimal', phone: 'text' };
      expect(back.map(({ key, label, kind }) => [key, label, kind])).toEqual(
        typed.map(({ key, label, kind, ...one }) => [
          key,
          label,
          'decimals' in one && one.decimals === 0 ? 'whole' : (alike[kind] ?? kind),
        ]),
      );
    }
  });
});

describe('a form from a JSON Schema', () => {
  it('asks for what it can, and says what it cannot', () => {
    const schema: JsonSchema = {
      title: 'Loan',
      type: 'object',
      required: ['tool', 'parts'],
      properties: {
        tool: { type: 'string', title: 'Which tool?', description: 'As on its label' },
        'Which-day': { type: ['string', 'null'], format: 'date' },
        state: { enum: ['new', 'used', 3] },
        parts: {
          type: 'array',
          maxItems: 9_999,
          items: {
            type: 'object',
            properties: {
              name: { type: 'string' },
              lots: {
                type: 'array',
                maxItems: 4,
                items: {
                  type: 'object',
                  properties: {
                    code: { type: 'string' },
                    marks: { type: 'array', items: { type: 'object' } },
                  },
                },
              },
            },
          },
        },
        address: { type: 'object', properties: { street: { type: 'string' } } },
        anything: {},
        'Which day': { type: 'string' },
      },
    };
    const { questions, notAsked } = questionsOfSchema(schema, tableFor);
    expect(questions.map(({ key, label, kind, required }) => [key, label, kind, required])).toEqual([
      ['tool', 'Which tool?', 'text', true],
      ['which_day', 'Which day', 'date', false],
      ['state', 'state', 'choice', false],
      ['parts', 'parts', 'rows', true],
      ['lots', 'lots', 'rows', false],
      ['which_day_2', 'Which day', 'text', false],
    ]);
    expect(questions[2]).toMatchObject({
      choices: [{ code: 'new' }, { code: 'used' }, { code: '3', label: '3' }],
    });
    expect(questions[3]).toMatchObject({ least: 1, most: 500, columns: [{ key: 'name' }] });
    // Rows stand in rows, one level deep.
    expect(questions[4]).toMatchObject({ within: questions[3]?.id, most: 4, columns: [{ key: 'code' }] });
    const inRows = answersSchema({
      ...treatmentRequest,
      sections: [{ id: 's', title: '', questions: questions.slice(3, 5) }],
    });
    expect(inRows['properties']).toMatchObject({
      parts: {
        items: { properties: { name: {}, lots: { maxItems: 4, items: { properties: { code: {} } } } } },
      },
    });
    expect(Object.keys(inRows['properties'] as object)).toEqual(['parts']);
    expect(notAsked).toEqual([
      { path: 'parts.lots.marks', why: 'nested' },
      { path: 'address', why: 'nested' },
      { path: 'anything', why: 'no-type' },
    ]);
    expect(questionsOfSchema({ type: 'string' }, tableFor).questions).toEqual([]);
  });
});
