import { describe, expect, it } from 'vitest';
import { design, full, sheetOf, SOAP, tables } from '../../../tests/support/designs';
import { groupsOf, type FormDesign } from '../form/design';
import { designIssues } from '../form/design-issues';
import { reidentified } from '../form/change/fresh-copy';
import { scopeOf } from '../form/scope';
import { filledMessage, messageShown, messageStored, messageWithout, valuesIn } from './message';
import { reasonsAsked, sheetIssues } from './sheet-issues';

const group = groupsOf(design)[0]!;
const scope = scopeOf(design, tables, group);
const MESSAGE = 'Above {qtrproduct.cpromax} ml/m² on {qtrplanned}.';
const saying = (message: string, otherwise: 'stop' | 'ask' = 'stop'): FormDesign => ({
  ...design,
  checks: [{ id: 'crate', on: 'qtrrate', must: 'qtrrate <= qtrproduct.cpromax', message, otherwise }],
});
const tooMuch = { ...full, rows: { qtrlines: [{ id: 'r1', cells: { qtrproduct: SOAP, qtrrate: '90' } }] } };

describe('a message with values in it', () => {
  it('is written with names in braces, kept by ids, and said with what stands there', () => {
    expect(messageShown(MESSAGE, scope)).toBe('Above {product.max_rate} ml/m² on {planned_on}.');
    expect(messageStored(messageShown(MESSAGE, scope), scope)).toBe(MESSAGE);
    expect(messageWithout(MESSAGE)).toBe('Above … ml/m² on ….');
    const issues = sheetIssues(sheetOf(tooMuch, saying(MESSAGE)));
    expect(issues).toMatchObject([
      { code: 'check-stops', facts: { message: 'Above 80 ml/m² on Wed 25 Nov 2026.' } },
    ]);
    const [asked] = reasonsAsked(sheetOf(tooMuch, saying('More than {qtrproduct.cpromax}', 'ask')));
    expect(asked?.message).toBe('More than 80');
  });

  it('that names what is not there keeps nothing from being filled, and the form from being released', () => {
    const broken = saying('Above {nothing_of_the_kind}.');
    expect(sheetIssues(sheetOf(tooMuch, broken))).toMatchObject([
      { facts: { message: 'Above {nothing_of_the_kind}.' } },
    ]);
    expect(designIssues(broken, tables, new Set()).filter(({ path }) => path[2] === 'message')).toHaveLength(
      1,
    );
    expect(
      designIssues(saying(MESSAGE), tables, new Set()).filter(({ path }) => path[0] === 'checks'),
    ).toEqual([]);
  });

  it('follows an answer that is kept elsewhere', () => {
    const ids = new Map([['qtrplanned', 'qother']]);
    expect(reidentified(saying(MESSAGE), ids).checks[0]?.message).toBe(
      'Above {qtrproduct.cpromax} ml/m² on {qother}.',
    );
  });

  it('without braces is as it is written, however it is written', () => {
    for (const words of ['No.', 'a } b { c', '', '{}']) expect(filledMessage(words, () => null)).toBe(words);
    expect(valuesIn('{a}{ b }')).toEqual(['a', 'b']);
  });
});
