import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decisionOf, tableOfDecision, type Decision, type Names } from '../../core/rules/decision';
import { hitPolicies, type Rule, type RuleTable } from '../../core/rules/rules';
import { decisionsIn, dmnOf } from './dmn-file';

const same = (text: string): string => text;
const names: Names = {
  steps: [
    { id: 'sa', label: 'Finance' },
    { id: 'sb', label: 'Director' },
  ],
  people: [
    { id: 'p1', label: 'Osei Marchetti' },
    { id: 'p2', label: 'Dagny "D" Farrow, Direction' },
  ],
  answers: [{ id: 'qa', label: 'Rate', type: 'number' }],
  groups: [{ id: 'g1', label: 'Plant health, all' }],
  type: () => 'number',
  shown: same,
  stored: same,
  testShown: same,
  testStored: same,
};
let counter = 0;
const newId = () => `n${++counter}`;
const rule = (id: string, more: Partial<Rule>): Rule => ({ id, cells: [], gives: [], ...more });
const table: RuleTable = {
  id: 't',
  label: 'Limits <&> "more"',
  hit: 'U',
  conditions: [
    { id: 'c1', expression: 'total' },
    { id: 'c2', expression: 'cost_centre' },
  ],
  asks: ['sa', 'sb'],
  days: ['sa'],
  fills: ['qa'],
  rows: [
    rule('r1', {
      cells: [{ condition: 'c1', test: '<= 500' }],
      gives: [
        { step: 'sa', people: ['p1', 'p2'], days: 2 },
        { step: 'sb', people: [], nobody: true },
      ],
      fill: [{ question: 'qa', expression: 'total * 2' }],
    }),
    rule('r2', {
      cells: [
        { condition: 'c1', test: '> 500' },
        { condition: 'c2', test: 'not("a, b", "c")' },
      ],
      gives: [
        { step: 'sa', people: [], groups: ['g1'], manager: true, named: 'bed.section_lead' },
        { step: 'sb', people: ['p2'] },
      ],
    }),
  ],
};

/** Without ids, and with everything in one order. */
const told = ({ label, hit, conditions, asks, days, fills, rows }: RuleTable) => ({
  label,
  hit,
  asks,
  days,
  fills,
  conditions: conditions.map(({ expression }) => expression),
  rows: rows.map(({ cells, gives, fill, weight }) => ({
    fill,
    cells: conditions.map(({ id }) => cells.find((one) => one.condition === id)?.test ?? ''),
    gives: [...gives].sort((a, b) => (a.step < b.step ? -1 : 1)),
    weight,
  })),
});

describe('rules as DMN', () => {
  it('are written in the namespace of DMN 1.5 and come back as they were', async () => {
    const xml = await dmnOf(decisionOf(table, names));
    expect(xml).toContain('xmlns:dmn="https://www.omg.org/spec/DMN/20230324/MODEL/"');
    expect(xml).toContain('<dmn:text>&lt;= 500</dmn:text>');
    const [decision] = (await decisionsIn(xml)) ?? [];
    const back = tableOfDecision(decision as Decision, { ...table, conditions: [], rows: [] }, names, newId);
    expect(back.unknown).toEqual([]);
    expect(told(back.table)).toEqual(told(table));
  });

  it('keep which row weighs most by the order of what is given', async () => {
    const weighing: RuleTable = {
      ...table,
      hit: 'P',
      rows: table.rows.map((row, i) => ({ ...row, weight: i === 0 ? 1 : 7 })),
    };
    const [decision] = (await decisionsIn(await dmnOf(decisionOf(weighing, names)))) ?? [];
    const { rows } = tableOfDecision(decision as Decision, weighing, names, newId).table;
    expect(rows.map(({ weight }) => weight)).toEqual([1, 2]);
  });

  it('are read as others write them, with what is not known here told', async () => {
    const xml = `<?xml version="1.0" encoding="UTF-8"?>
<definitions xmlns="http://www.omg.org/spec/DMN/20151101/dmn.xsd" id="d" name="Limits" namespace="urn:elsewhere">
  <decision id="x" name="Who signs">
    <decisionTable id="y" hitPolicy="FIRST">
      <input id="i"><inputExpression typeRef="number"><text>total</text></inputExpression></input>
      <output id="o" name="signs" typeRef="string"/>
      <output id="p" name="within" typeRef="number"/>
      <rule id="r"><inputEntry><text>[1..5]</text></inputEntry><outputEntry><text>"Osei Marchetti"</text></outputEntry><outputEntry><text>3</text></outputEntry></rule>
      <rule id="s"><inputEntry><text>-</text></inputEntry><outputEntry><text>["Somebody Else"]</text></outputEntry><outputEntry><text></text></outputEntry></rule>
    </decisionTable>
  </decision>
</definitions>`;
    const [decision] = (await decisionsIn(xml)) ?? [];
    const { table: taken, unknown } = tableOfDecision(
      decision as Decision,
      { ...table, asks: ['sa'] },
      names,
      newId,
    );
    expect(unknown).toEqual(['Somebody Else']);
    expect(told(taken)).toMatchObject({
      label: 'Who signs',
      hit: 'F',
      asks: ['sa'],
      days: ['sa'],
      rows: [
        { cells: ['[1..5]'], gives: [{ step: 'sa', people: ['p1'], days: 3 }] },
        { cells: [''], gives: [{ step: 'sa', people: [] }] },
      ],
    });
  });

  it.each(['', 'no xml', '<html><body/></html>', '<a', '{"a": 1}'])('“%s” is no DMN', async (text) => {
    expect((await decisionsIn(text)) ?? []).toEqual([]);
  });

  it('law: whatever texts stand in it, they come back', async () => {
    const texts = fc
      .string({ unit: 'grapheme', minLength: 1, maxLength: 20 })
      .filter((text) => text.trim() === text && !/[\p{Cc}\p{Cn}]/u.test(text));
    const decisions = fc
      .record({
        name: texts,
        hit: fc.constantFrom(...hitPolicies),
        inputs: fc.array(
          texts.map((expression) => ({ expression, type: 'string' })),
          { maxLength: 3 },
        ),
        gives: fc.array(texts, { minLength: 1, maxLength: 2 }),
        test: texts,
      })
      .map(({ name, hit, inputs, gives, test }): Decision => ({
        name,
        hit,
        inputs,
        outputs: gives.map((one) => ({ name: one, type: 'Any' })),
        rules: [{ tests: inputs.map(() => test), gives }],
      }));
    await fc.assert(
      fc.asyncProperty(decisions, async (decision) => {
        expect(await decisionsIn(await dmnOf(decision))).toEqual([decision]);
      }),
      { numRuns: 100 },
    );
  });
});
