import { describe, expect, it } from 'vitest';
import { isInside, mayReach } from './address-policy';

describe('where sources may be', () => {
  it.each([
    '127.0.0.1',
    '127.9.9.9',
    '10.1.2.3',
    '172.16.0.1',
    '172.31.255.255',
    '192.168.1.1',
    '169.254.169.254',
    '0.0.0.0',
    '100.64.0.1',
    '224.0.0.1',
    '255.255.255.255',
    '::1',
    '::',
    'fe80::1',
    'fe80::1%eth0',
    'fc00::1',
    'fd12::1',
    '::ffff:127.0.0.1',
    '::ffff:7f00:1',
    '64:ff9b::10.0.0.1',
    '2002:7f00:1::',
    'ff02::1',
    'not an address',
  ])('%s is inside', (address) => expect(isInside(address)).toBe(true));
  it.each(['93.184.216.34', '172.32.0.1', '11.0.0.1', '2606:2800:220:1::1'])('%s is not', (address) =>
    expect(isInside(address)).toBe(false),
  );
  it('is inside only where that is named, by address, range or host', () => {
    expect(mayReach('localhost', '127.0.0.1', [])).toBe(false);
    expect(mayReach('localhost', '127.0.0.1', ['localhost'])).toBe(true);
    expect(mayReach('db.example', '10.1.2.3', ['10.1.0.0/16'])).toBe(true);
    expect(mayReach('db.example', '10.2.2.3', ['10.1.0.0/16'])).toBe(false);
    expect(mayReach('db.example', '93.184.216.34', [])).toBe(true);
  });
});
