import { describe, expect, it } from 'vitest';
import { passwordIssue } from './password';

const codeOf = (password: string): string | undefined =>
  passwordIssue(password, 'maren.solheim@quillmere.example')?.code;

describe('a new password', () => {
  it.each(['fern bench north', 'quillmere-garden', '東の温室に行きましょうよ', 'x'.repeat(190) + 'abc'])(
    'may be %s',
    (password) => expect(codeOf(password)).toBeUndefined(),
  );
  it('may have exactly as many characters as the bounds say, counted as people count them', () => {
    expect(codeOf('fern bench')).toBeUndefined();
    expect(codeOf('fern'.repeat(50))).toBeUndefined();
    expect(codeOf('🌿🌱🍃🌾🌵🎋🍀🌳🌲')).toBe('password-length');
  });
  it('is refused at its place, with the bounds', () => {
    expect(passwordIssue('short', '')).toEqual({
      code: 'password-length',
      path: ['password'],
      facts: { least: 10, most: 200 },
    });
    expect(passwordIssue('password123', '')?.path).toEqual(['password']);
  });
  it.each([
    ['short', 'password-length'],
    ['nine9nine', 'password-length'],
    ['x'.repeat(201), 'password-length'],
    ['Password123', 'password-common'],
    ['1234567890', 'password-common'],
    ['aaaaaaaaaaaa', 'password-common'],
    ['Maren.Solheim', 'password-common'],
    ['maren.solheim@quillmere.example', 'password-common'],
  ])('may not be %s: %s', (password, code) => expect(codeOf(password)).toBe(code));
});
