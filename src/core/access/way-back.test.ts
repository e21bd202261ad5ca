import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wayBack } from './way-back';

const HERE = 'http://127.0.0.1:4321';

describe('the way back after signing in', () => {
  it.each([
    ['/tables/beds?sort=name', '/tables/beds?sort=name'],
    ['/', '/'],
    [null, '/'],
    ['https://elsewhere.example/', '/'],
    ['//elsewhere.example', '/'],
    ['/\\elsewhere.example', '/'],
    ['/\t/elsewhere.example', '/'],
    ['/\n\\elsewhere.example', '/'],
    ['\t//elsewhere.example', '/'],
    ['javascript:alert(1)', '/'],
    ['/..//elsewhere.example', '/elsewhere.example'],
    ['/..///elsewhere.example', '/elsewhere.example'],
    ['/tables//beds', '/tables//beds'],
    ['tables/beds', '/'],
    ['', '/'],
    ['http://127.0.0.1:4321/tables', '/'],
  ])('of %j is %s', (wanted, to) => expect(wayBack(wanted, HERE)).toBe(to));

  it('never leads elsewhere, whatever is wanted', () => {
    const nasty = fc.array(
      fc.constantFrom(
        '/',
        '\\',
        '\t',
        '\n',
        '\r',
        ' ',
        '.',
        '@',
        ':',
        'a',
        '%2f',
        '%09',
        '?',
        '#',
        'e.example',
      ),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(nasty, (parts) => {
        const to = wayBack(`/${parts.join('')}`, HERE);
        expect(to.startsWith('/')).toBe(true);
        expect(new URL(to, HERE).origin).toBe(HERE);
      }),
    );
  });
});
