import { describe, expect, it } from 'vitest';
import { mentioned } from './mentioned';

const people = ['Ada Quist', 'Adam Quill', 'Pell Adeyemi', 'Pell Ostrow', 'Zoë Ähn'].map((name) => ({
  id: name,
  name,
}));
const named = (word: string) => mentioned(word, people).map(({ name }) => name);

describe('whom a word names', () => {
  it.each<[string, string[]]>([
    ['@Ada, is this right?', ['Ada Quist']],
    ['ask @ada quist or @Adam', ['Ada Quist', 'Adam Quill']],
    ['@Adams is nobody', []],
    ['@Pell could be two', []],
    ['@Pell Ostrow knows', ['Pell Ostrow']],
    ['@ZOË?', ['Zoë Ähn']],
    ['ada@quist.example', []],
    ['Ada without a sign', []],
    ['', []],
  ])('“%s”', (word, expected) => {
    expect(named(word)).toEqual(expected);
  });
});
