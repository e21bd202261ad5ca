import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { design, tables } from '../../../tests/support/designs';
import { people } from '../../../demo/people';
import { bedInspection, plantIntake } from '../../../demo/forms';
import { issueCodes, issueSentence } from '../wording/issue-sentence';
import { isUuid, newShortId, newUuid } from '../kernel/ids';
import { nearest } from '../kernel/nearest';
import { issue } from '../kernel/issue';
import { designIssues } from './design-issues';
import { questionsOf, type FormDesign, type Question } from './design';
import { lineNumbers, linesOf, rowLetter } from './numbered-lines';
import {
  addColumn,
  addQuestion,
  asKind,
  choicesFrom,
  keysTaken,
  removeQuestion,
  replaceQuestion,
} from './edit';
import { nudgeQuestion } from './change/arrange';
import { isKey, isReservedKey, keyFor } from './key';
import { suggestKind } from './suggest-kind';

const known = new Set(people.map(({ id }) => id));
const codes = (of: FormDesign) => designIssues(of, tables, known).map(({ code, path }) => [code, ...path]);
const change = (id: string, part: object): FormDesign =>
  replaceQuestion(design, id, (question) => ({ ...question, ...part }) as Question);

describe('what keeps a design from being released', () => {
  it('is nothing in the sample forms', () =>
    expect([design, plantIntake, bedInspection].map(codes)).toEqual([[], [], []]));

  it.each<[string, FormDesign, (string | number)[]]>([
    ['a question without words', change('qtrseen', { label: ' ' }), ['label-missing', 'qtrseen']],
    ['words without end', change('qtrseen', { label: 'x'.repeat(201) }), ['label-too-long', 'qtrseen']],
    ['a key twice', change('qtrseen', { key: 'bed' }), ['key-taken', 'qtrseen', 'key']],
    ['a reserved key', change('qtrseen', { key: 'if' }), ['key-reserved', 'qtrseen', 'key']],
    ['a key that is none', change('qtrseen', { key: 'a-b' }), ['key-invalid', 'qtrseen', 'key']],
    ['a lookup into nothing', change('qtrbed', { table: '' }), ['table-unknown', 'qtrbed']],
    [
      'a choice of nothing',
      change('qtrseen', { kind: 'choice', choices: [] }),
      ['choices-missing', 'qtrseen'],
    ],
    [
      'the same choice twice',
      change('qtrseen', {
        kind: 'choice',
        choices: [
          { code: 'a', label: 'A' },
          { code: 'b', label: 'A' },
        ],
      }),
      ['choice-repeated', 'qtrseen'],
    ],
    [
      'rows without columns',
      change('qtrlines', { columns: [], totals: [] }),
      ['columns-missing', 'qtrlines'],
    ],
    ['more rows than most', change('qtrlines', { least: 9 }), ['row-limits', 'qtrlines']],
    [
      'a step nobody decides',
      { ...design, steps: [{ id: 's', label: 'Lead', people: [] }] },
      ['approver-missing', 'steps', 's'],
    ],
    [
      'somebody unknown',
      { ...design, steps: [{ id: 's', label: 'Lead', people: ['nobody'] }] },
      ['approver-unknown', 'steps', 's'],
    ],
    [
      'a check without words',
      { ...design, checks: [{ ...design.checks[0]!, message: '' }] },
      ['check-message-missing', 'checks', 'qtrc1'],
    ],
    [
      'a check whose line is gone',
      { ...design, checks: [{ ...design.checks[2]!, on: 'gone' }] },
      ['check-place', 'checks', 'qtrc3'],
    ],
    [
      'a broken check',
      { ...design, checks: [{ ...design.checks[2]!, must: 'qtrplanned >=' }] },
      ['expression-broken', 'checks', 'qtrc3'],
    ],
    [
      'a check that is no yes or no',
      { ...design, checks: [{ ...design.checks[2]!, must: '1 + 1' }] },
      ['result-type', 'checks', 'qtrc3'],
    ],
    [
      'a prefix that is none',
      { ...design, table: { ...design.table, prefix: 'tr-1' } },
      ['prefix-invalid', 'store', design.table.id],
    ],
    ['no question at all', { ...design, sections: [], checks: [] }, ['questions-missing', 'sections']],
  ])('%s', (_, of, wanted) => expect(codes(of)).toContainEqual(wanted));

  it('has a sentence for every code there is', () => {
    for (const code of issueCodes)
      expect(issueSentence(issue(code, [], { message: 'Too much.' }))).toMatch(/\S/);
  });
});

describe('edits of a design', () => {
  it('leave the old design as it was', () => {
    const before = JSON.stringify(design);
    removeQuestion(nudgeQuestion(change('qtrbed', { label: 'Where?' }), 'qtrbed', 1), 'qtrlines');
    expect(JSON.stringify(design)).toBe(before);
  });

  it('take away a group with its columns, totals and the checks at them', () => {
    const after = removeQuestion(design, 'qtrlines');
    expect(questionsOf(after).map(({ id }) => id)).not.toContain('qtrlines');
    expect(after.checks.map(({ id }) => id)).toEqual(['qtrc3']);
    expect(
      removeQuestion(design, 'qtramount').sections[0]?.questions.flatMap((one) =>
        one.kind === 'rows' ? one.totals : [],
      ),
    ).toEqual([]);
  });

  it('add questions and columns under keys of their own', () => {
    const base = { id: 'qx', key: keyFor('Bed', keysTaken(design)), label: 'Bed', hint: '', required: true };
    expect(base.key).toBe('bed_2');
    const wider = addColumn(
      addQuestion(design, 'qtrsection', asKind(base, 'date', design.table)),
      'qtrlines',
      { ...base, id: 'qy', key: 'wind', kind: 'text', long: false },
    );
    expect(codes(wider)).toEqual([]);
    expect(keysTaken(wider, 'qtrlines').has('wind')).toBe(true);
  });

  it('keep the code of a choice whose words stay', () => {
    expect(choicesFrom('Seed\n\n Exchange \nSeed\n🌿', [{ code: 'from_seed', label: 'Seed' }])).toEqual([
      { code: 'from_seed', label: 'Seed' },
      { code: 'exchange', label: 'Exchange' },
      { code: 'choice', label: '🌿' },
    ]);
  });
});

describe('keys', () => {
  it.each([
    ['Area of bed, m²', 'area_of_bed_m2'],
    ['Größe', 'gro_e'],
    ['🌿🌿', 'answer'],
    ['if', 'if_2'],
    ['2nd row', 'nd_row'],
    ["Robert'); drop table beds;--", 'robert_drop_table_beds'],
    ['نبات', 'answer'],
    ['select', 'select'],
  ])('for %j', (label, key) => expect(keyFor(label, new Set())).toBe(key));

  it('law: whatever the words, the key is one, free and not reserved', () => {
    fc.assert(
      fc.property(
        fc.string({ maxLength: 250 }),
        fc.array(fc.constantFrom('answer', 'a', 'b', 'answer_2')),
        (label, list) => {
          const taken: ReadonlySet<string> = new Set(list);
          const key = keyFor(label, taken);
          expect(isKey(key) && !isReservedKey(key) && !taken.has(key)).toBe(true);
        },
      ),
    );
  });
});

describe('lines', () => {
  it('number answers, and set a worked-out value beside the answer before it', () => {
    expect(
      [...linesOf(design).values()]
        .flat()
        .map(({ number, questions }) => [number, questions.map(({ key }) => key)]),
    ).toEqual([
      ['1', ['bed', 'bed_area']],
      ['2', ['products']],
      ['3', ['planned_on']],
      ['4', ['path_closed']],
      ['5', ['seen']],
    ]);
    expect(lineNumbers(design).get('qtramount')).toBe('2');
  });

  it('letter rows', () =>
    expect([0, 1, 25, 26, 27, 701, 702].map(rowLetter)).toEqual(['a', 'b', 'z', 'aa', 'ab', 'zz', 'aaa']));
});

describe('small helps', () => {
  it.each([
    ['How many plants?', 'whole'],
    ['When did it arrive?', 'date'],
    ['Is it open?', 'yes-no'],
    ['Which source?', 'choice'],
    ['Area', 'decimal'],
    ['Name', 'text'],
    ['Notes', 'text'],
  ])('%s wants %s', (label, kind) => expect(suggestKind(label)).toBe(kind));

  it('finds the nearest name within two edits', () => {
    expect(nearest('amout', ['amount', 'area'])).toBe('amount');
    expect(nearest('xyz', ['amount'])).toBeNull();
  });

  it('makes ids that sort by time and are names in expressions', () => {
    const [a, b] = [newUuid(1_700_000_000_000), newUuid(1_700_000_000_001)];
    expect(isUuid(a) && a < b && a[14] === '7').toBe(true);
    expect(newShortId()).toMatch(/^[a-z][a-z0-9]{12}$/);
  });
});
