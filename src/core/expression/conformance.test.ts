import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { loadPatterns } from './functions/patterns';
import { worldOf } from '../../../tests/support/workspace';
import { compile } from './compile';
import { toJson } from './json';
import { read } from './read';

/** Values by the standard. Each that is refused when it is written is named here with the reason. */
const refused: Readonly<Record<string, string>> = {
  '1 < "2"': 'a number is not compared with a text',
  'true < false': 'yes and no have no order',
  'if "x" then 1 else 2': 'a text is no condition',
  '"a" + 1': 'a number is not added to a text',
  'date("2026-12-24") > date and time("2026-12-23T00:00:00")': 'a day is not compared with a moment',
  'date("2026-12-24") + 1': 'one what? a duration says',
};
const cases = JSON.parse(readFileSync(new URL('./conformance-cases.json', import.meta.url), 'utf8')) as {
  expression: string;
  value: unknown;
}[];
const source = {
  ...worldOf('2026-11-23T09:00:00'),
  read: () => null,
  column: () => [],
  gaveUp: () => undefined,
};

beforeAll(loadPatterns);

describe('the values of the standard', () => {
  it('are all here', () => expect(cases).toHaveLength(54));

  it.each(
    cases
      .filter(({ expression }) => !(expression in refused))
      .map((one) => [one.expression, one.value] as const),
  )('%s', (text, wanted) => {
    const tree = read(text, new Map());
    if (!tree.ok) throw new Error(JSON.stringify(tree.error));
    expect(toJson(compile(tree.value)(source))).toEqual(wanted);
  });

  it.each(Object.entries(refused))('%s is refused: %s', (text) => {
    const tree = read(text, new Map());
    expect(tree.ok ? [] : tree.error.map(({ code }) => code)).toEqual([
      text.startsWith('if') ? 'not-a-condition' : 'wrong-type',
    ]);
  });
});
