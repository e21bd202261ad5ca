import { describe, expect, it } from 'vitest';
import { form, number, section, tables, target, text } from '../../../tests/support/small-form';
import type { RuleTable } from '../rules/rules';
import { applied, inverted } from './change/design-change';
import { differenceOf } from './change/design-difference';
import { freshCopy } from './change/fresh-copy';
import { compileForm } from './compile-form';
import { rulesIn, type FormDesign } from './design';
import { designIssues } from './design-issues';
import {
  beginRules,
  giveTo,
  insertRow,
  leaveRules,
  moveRow,
  removeCondition,
  removeStep,
  setTest,
} from './rule-edits';

const table: RuleTable = {
  id: 'rtable',
  label: 'Limits',
  hit: 'U',
  conditions: [
    { id: 'cona', expression: 'qcost' },
    { id: 'conb', expression: 'qcentre' },
  ],
  asks: ['stepa'],
  days: ['stepa'],
  rows: [
    {
      id: 'rowa',
      cells: [
        { condition: 'cona', test: '<= qlimit' },
        { condition: 'conb', test: '"qcost"' },
      ],
      gives: [{ step: 'stepa', people: ['ada'], days: 2 }],
    },
    {
      id: 'rowb',
      cells: [{ condition: 'cona', test: '> qlimit' }],
      gives: [{ step: 'stepa', people: [], manager: true }],
    },
  ],
};
const design: FormDesign = {
  ...form([section('seca', [number('qcost'), number('qlimit'), text('qcentre')])]),
  steps: [
    { id: 'stepa', label: 'Money', people: ['osei'], corrects: ['qcost'] },
    { id: 'stepb', label: 'Head', people: ['dagny'] },
  ],
  rules: [table],
};
const people = new Set(['ada', 'osei', 'dagny']);
const issuesOf = (of: FormDesign) =>
  designIssues(of, tables, people).map(({ code, path }) => [code, ...path]);
const withTable = (more: Partial<RuleTable>): FormDesign => ({ ...design, rules: [{ ...table, ...more }] });

describe('rules in a design', () => {
  it('are read with it, and what cannot be is told at its cell', () => {
    expect(issuesOf(design).filter(([, at]) => at === 'rules')).toEqual([]);
    const rows = [
      setTest(table.rows[0]!, 'cona', '> qlimt'),
      giveTo(table.rows[1]!, 'stepa', { manager: undefined, people: ['gone'] }),
      { id: 'rowc', cells: [], gives: [] },
    ];
    expect(issuesOf(withTable({ rows })).filter(([, at]) => at === 'rules')).toEqual([
      ['approver-unknown', 'rules', 'rtable', 'rowb', 'stepa'],
      ['rule-asks-nobody', 'rules', 'rtable', 'rowc', 'stepa'],
      ['unknown-name', 'rules', 'rtable', 'rowa', 'cona'],
    ]);
    expect(issuesOf(withTable({ rows: [] }))).toContainEqual(['rules-empty', 'rules', 'rtable']);
    expect(issuesOf(withTable({ conditions: [{ id: 'cona', expression: 'qcost +' }] }))).toContainEqual([
      'expression-broken',
      'rules',
      'rtable',
      'cona',
    ]);
  });

  it('are copied under ids of their own, with the answers and steps they are about', () => {
    let n = 0;
    const copy = freshCopy(
      design,
      () => `new${++n}id`,
      () => target(93),
    );
    const [made] = rulesIn(copy);
    const cost = copy.sections[0]?.questions[0]?.id ?? '';
    const limit = copy.sections[0]?.questions[1]?.id ?? '';
    expect(made?.conditions[0]?.expression).toBe(cost);
    expect(made?.rows[0]?.cells).toEqual([
      { condition: made?.conditions[0]?.id, test: `<= ${limit}` },
      // A text in quotes is no name.
      { condition: made?.conditions[1]?.id, test: '"qcost"' },
    ]);
    expect([made?.asks, made?.days, made?.rows[0]?.gives[0]?.step]).toEqual([
      [copy.steps[0]?.id],
      [copy.steps[0]?.id],
      copy.steps[0]?.id,
    ]);
    expect(copy.steps[0]?.corrects).toEqual([cost]);
    expect(JSON.stringify(copy)).not.toMatch(/rtable|rowa|rowb|cona|stepa/);
    expect(compileForm(copy, tables).ok).toBe(true);
  });

  it('are edited by changes that are taken back, and meet those of somebody else', () => {
    const mine = withTable({ rows: [setTest(table.rows[0]!, 'cona', '<= 5'), table.rows[1]!] });
    const theirs = withTable({ rows: [table.rows[0]!, giveTo(table.rows[1]!, 'stepa', { days: 4 })] });
    const changes = differenceOf(design, mine);
    expect(changes).toHaveLength(1);
    const both = rulesIn(applied(theirs, changes))[0];
    expect(both?.rows[0]?.cells).toContainEqual({ condition: 'cona', test: '<= 5' });
    expect(both?.rows[1]?.gives).toMatchObject([{ days: 4 }]);
    expect(applied(mine, inverted(changes))).toEqual(design);
    const { rules: _none, ...without } = design;
    for (const [from, to] of [
      [design, without],
      [without, design],
    ] as [FormDesign, FormDesign][]) {
      const way = differenceOf(from, to);
      expect(applied(from, way)).toEqual(to);
      expect(applied(to, inverted(way))).toEqual(from);
    }
  });

  it('come and go as lists that a form need not have, like what is written beside', () => {
    const write = { id: 'fwa', t: 'add' as const, table: '', sets: [] };
    const { rules: _none, ...bare } = design;
    const more: FormDesign = { ...bare, further: [write] };
    const changes = differenceOf(bare, more);
    expect(applied(design, changes)).toEqual({ ...design, further: [write] });
    expect(applied(more, inverted(changes))).toEqual(bare);
  });

  it('begin with whom a step asked, and are left with it', () => {
    const begun = beginRules({ ...design, rules: undefined }, 'stepb', {
      table: 'tnew',
      row: 'rnew',
      label: 'New',
    });
    expect(rulesIn(begun)).toMatchObject([
      { id: 'tnew', asks: ['stepb'], rows: [{ gives: [{ step: 'stepb', people: ['dagny'] }] }] },
    ]);
    expect(leaveRules(begun, 'stepb').rules).toBeUndefined();
    const shared = leaveRules(design, 'stepb', ['rtable']);
    expect(rulesIn(shared)[0]?.asks).toEqual(['stepa', 'stepb']);
    const left = removeStep(shared, 'stepa');
    expect([left.steps.map(({ id }) => id), rulesIn(left)[0]?.asks, rulesIn(left)[0]?.days]).toEqual([
      ['stepb'],
      ['stepb'],
      [],
    ]);
    expect(rulesIn(left)[0]?.rows.flatMap(({ gives }) => gives)).toEqual([]);
    expect(removeStep(design, 'stepa').rules).toBeUndefined();
  });

  it('keep their rows in order', () => {
    const row = { id: 'rowc', cells: [], gives: [] };
    const ids = ({ rows }: RuleTable) => rows.map(({ id }) => id);
    expect(ids(insertRow(table, row))).toEqual(['rowa', 'rowb', 'rowc']);
    expect(ids(insertRow(table, row, 'rowa'))).toEqual(['rowa', 'rowc', 'rowb']);
    expect(ids(moveRow(table, 'rowb', -1))).toEqual(['rowb', 'rowa']);
    expect(moveRow(table, 'rowb', 1)).toBe(table);
    expect(removeCondition(table, 'cona').rows.flatMap(({ cells }) => cells)).toEqual([
      { condition: 'conb', test: '"qcost"' },
    ]);
  });
});
