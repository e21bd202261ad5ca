import { describe, expect, it } from 'vitest';
import { passwordIssue } from '../core/access/password';
import { guessesOf } from './guesses';

const codeOf = async (password: string): Promise<string | undefined> =>
  passwordIssue(password, await guessesOf(['maren.solheim@quillmere.example', 'Maren Solheim', 'Fern house']))
    ?.code;

describe('a new password', () => {
  it.each([
    'fern bench north',
    'quillmere-garden',
    '東の温室に行きましょうよ',
    'four green ferns grow'.repeat(9),
  ])('may be %s', async (password) => expect(await codeOf(password)).toBeUndefined());
  it.each([
    'Password123',
    'P@ssw0rd123',
    '1234567890',
    'qwertyuiop12',
    'aaaaaaaaaaaa',
    'abcabcabcabc',
    'Maren.Solheim',
    'maren.solheim@quillmere.example',
    'solheim1999',
    'fernhouse1',
    'a'.repeat(200),
  ])('may not be %s, which is guessed first', async (password) =>
    expect(await codeOf(password)).toBe('password-common'),
  );
});
