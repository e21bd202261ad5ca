import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';

/** `npm run -s feel`, as it is called from outside: lines in, lines out, nothing else, and no database. */
const feel = (input: string, ...flags: string[]): unknown[] => {
  const { stdout, status } = spawnSync(
    'npm',
    ['run', '-s', 'feel', ...(flags.length > 0 ? ['--', ...flags] : [])],
    { input, encoding: 'utf8' },
  );
  expect(status).toBe(0);
  return stdout
    .trim()
    .split('\n')
    .map((line): unknown => JSON.parse(line));
};

describe('the command that tries expressions', () => {
  it('answers each line with a line', () => {
    const lines = [
      '{"expression": "0.1 + 0.2"}',
      '',
      '{"expression": "rte * 2", "context": {"rate": 1}}',
      'not json',
      '{"expression": "1 < \\"2\\""}',
    ].join('\n');
    expect(feel(lines)).toEqual([
      { value: 0.3 },
      {
        refused: [
          {
            code: 'unknown-name',
            message: 'Nothing here is called rte; did you mean rate?',
            from: 0,
            to: 3,
          },
        ],
      },
      { refused: [expect.objectContaining({ code: 'malformed' })] },
      { refused: [{ code: 'wrong-type', message: 'This is text where a number is needed', from: 4, to: 7 }] },
    ]);
  });

  it('adds the SQL, or says what cannot be said', () => {
    expect(
      feel(
        '{"expression": "rate <= 5", "context": {"rate": 1}}\n{"expression": "matches(name, \\"^a\\")", "context": {"name": "ab"}}\n',
        '--sql',
      ),
    ).toEqual([
      { value: true, sql: `("rate" <= '5'::numeric)` },
      {
        value: true,
        sql: null,
        notInSql: [expect.objectContaining({ code: 'not-in-sql', from: 0, to: 19 })],
      },
    ]);
  });
});
