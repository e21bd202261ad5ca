import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';

const useCases = join(import.meta.dirname, '../use-cases');
const adr = join(import.meta.dirname, '../../docs/adr/0003-two-roles-and-row-level-security.md');

it('is gone in as only where ADR 3 says why', () => {
  const goIn = readdirSync(useCases, { recursive: true, encoding: 'utf8' })
    .filter(
      (file) =>
        file.endsWith('.ts') && /\basOwner|\bownerDatabase/.test(readFileSync(join(useCases, file), 'utf8')),
    )
    .sort();
  const table = readFileSync(adr, 'utf8')
    .split('\n')
    .filter((line) => line.startsWith('| `'));
  const named = table.flatMap((line) =>
    [...(line.split('|')[1] ?? '').matchAll(/`([^`]+)`/g)].map(([, file]) => file),
  );
  expect(goIn.length).toBeGreaterThan(5);
  expect(goIn).toEqual(named.sort());
});
