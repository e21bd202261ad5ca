import { describe, expect, it } from 'vitest';
import { mayAdminister, mayDesign, roles, seeNewTables, type Role } from './rules';

const having = (...of: Role[]) => ({
  id: 'p',
  name: 'P',
  email: 'p@quillmere.example',
  place: '',
  roles: of,
});

describe('what the roles of the workspace allow', () => {
  it('lets owners and administrators design, and nobody else', () => {
    expect(roles.filter((role) => mayDesign(having(role)))).toEqual(['owner', 'administrator']);
    expect(mayDesign(having())).toBe(false);
    expect(mayDesign(having('colleague', 'owner'))).toBe(true);
  });

  it('lets only administrators administer', () => {
    expect(roles.filter((role) => mayAdminister(having(role)))).toEqual(['administrator']);
  });

  it('shows a new table to those who look after tables, not to every colleague', () => {
    expect(seeNewTables).toEqual(['owner', 'steward', 'administrator']);
  });
});
