import { describe, expect, it } from 'vitest';
import { linkState, siteOf } from './link';

const now = new Date('2026-11-23T12:00:00Z');
const link = { stopped: false, endsAt: null, most: null, sent: 0 };

describe('a link', () => {
  it('is open until it is stopped, its time is over, or enough was sent', () => {
    expect(linkState(link, now)).toBe('open');
    expect(linkState({ ...link, stopped: true, most: 1, sent: 1 }, now)).toBe('stopped');
    expect(linkState({ ...link, endsAt: '2026-11-23T12:00:00Z' }, now)).toBe('over');
    expect(linkState({ ...link, endsAt: '2026-11-23T12:00:01Z' }, now)).toBe('open');
    expect(linkState({ ...link, most: 3, sent: 2 }, now)).toBe('open');
    expect(linkState({ ...link, most: 3, sent: 3 }, now)).toBe('full');
  });
});

describe('a site', () => {
  it('is named as browsers name it', () => {
    expect(siteOf(' https://Garden.example/ ')).toBe('https://garden.example');
    expect(siteOf('https://garden.example:8443')).toBe('https://garden.example:8443');
    expect(siteOf('http://localhost:8080')).toBe('http://localhost:8080');
  });
  it.each([
    'garden.example',
    'http://garden.example',
    'https://garden.example/page',
    'https://garden.example/?x',
    'https://a@garden.example',
    'javascript:alert(1)',
    "https://garden.example; script-src 'unsafe-inline'",
    'https://*.example',
    '',
  ])('is not %s', (text) => {
    expect(siteOf(text)).toBeNull();
  });
});
