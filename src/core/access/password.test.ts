import { describe, expect, it } from 'vitest';
import { passwordIssue } from './password';

const codeOf = (password: string, guesses = 9): string | undefined =>
  passwordIssue(password, () => guesses)?.code;

describe('a new password', () => {
  it('may have exactly as many characters as the bounds say, counted as people count them', () => {
    expect(codeOf('fern bench')).toBeUndefined();
    expect(codeOf('fern'.repeat(50))).toBeUndefined();
    expect(codeOf('🌿🌱🍃🌾🌵🎋🍀🌳🌲')).toBe('password-length');
    expect(codeOf('x'.repeat(201))).toBe('password-length');
  });
  it('is refused at its place, with the bounds', () => {
    expect(passwordIssue('short', () => 9)).toEqual({
      code: 'password-length',
      path: ['password'],
      facts: { least: 10, most: 200 },
    });
    expect(passwordIssue('password123', () => 2)?.path).toEqual(['password']);
  });
  it('takes a million guesses and more', () => {
    expect(codeOf('fern bench', 5.99)).toBe('password-common');
    expect(codeOf('fern bench', 6)).toBeUndefined();
  });
});
