import { describe, expect, it } from 'vitest';
import { acceptOf, allowedType, fileName } from './file';

describe('a file that is brought', () => {
  it('answers a question by what its content is', () => {
    const says = (type: string, what: 'photos' | 'files') => {
      const allowed = allowedType(type, what);
      return allowed.ok ? 'taken' : allowed.error.code;
    };
    expect([says('image/jpeg', 'photos'), says('application/pdf', 'photos'), says('', 'photos')]).toEqual([
      'taken',
      'not-a-photo',
      'not-a-photo',
    ]);
    expect([
      says('image/png', 'files'),
      says('text/plain', 'files'),
      says('text/html', 'files'),
      says('image/svg+xml', 'files'),
      says('application/x-msdownload', 'files'),
      says('', 'files'),
    ]).toEqual(['taken', 'taken', 'file-type', 'file-type', 'file-type', 'file-type']);
    expect(acceptOf('photos')).toBe('image/jpeg,image/png,image/webp,image/gif');
    expect(acceptOf('files')).toContain('application/pdf');
  });

  it('is called what it was called, without a path or signs that turn a name round', () => {
    expect(fileName('C:\\Users\\me\\leaf.jpg')).toBe('leaf.jpg');
    expect(fileName('../../etc/passwd')).toBe('passwd');
    expect(fileName('leaf\u202egpj.exe')).toBe('leafgpj.exe');
    expect(fileName('a\r\nb\u0000.txt')).toBe('ab.txt');
    expect([fileName(' '), fileName('x/'), fileName('نبات 🌿.png')]).toEqual(['file', 'file', 'نبات 🌿.png']);
    expect([...fileName('🌿'.repeat(400))]).toHaveLength(200);
  });
});
