import { describe, expect, it } from 'vitest';
import { directoryEntries } from './directory-entries';

describe('a list of people at a JSON address', () => {
  it('is read by the names of its fields, wherever it stands in the answer', () => {
    const answer = {
      made: '2026-12-01',
      people: [
        {
          id: 17,
          email: 'ada@here.example',
          givenName: 'Ada',
          family_name: 'Quist',
          department: 'Fern house',
          groups: ['Leads', { label: 'Plant health; east' }],
          shoe: { size: 38 },
        },
        {
          id: 18,
          email: 'bo@here.example',
          givenName: 'Bo',
          family_name: 'Rask',
          managerId: 17,
          active: true,
        },
        { id: 19, email: 'cy@here.example', givenName: 'Cy', family_name: 'Oren', active: false },
      ],
    };
    expect(directoryEntries(answer)).toEqual({
      rows: [
        {
          email: 'ada@here.example',
          name: 'Ada Quist',
          place: 'Fern house',
          groups: ['Leads', 'Plant health; east'],
          entry: '17',
        },
        { email: 'bo@here.example', name: 'Bo Rask', manager: 'ada@here.example', entry: '18' },
      ],
      unread: ['shoe size'],
      missing: [],
    });
  });

  it('may be one of RFC 7643', () => {
    const extension = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
    const answer = {
      totalResults: 2,
      Resources: [
        {
          id: 'a1',
          userName: 'ada',
          name: { givenName: 'Ada', familyName: 'Quist' },
          emails: [
            { value: 'ada@home.example', type: 'home' },
            { value: 'ada@here.example', type: 'work', primary: true },
          ],
          groups: [{ value: 'g1', display: 'Leads' }],
          active: true,
          [extension]: { department: 'Fern house' },
        },
        {
          id: 'b2',
          userName: 'bo',
          name: { givenName: 'Bo', familyName: 'Rask' },
          emails: [{ value: 'bo@here.example' }],
          [extension]: { manager: { value: 'a1' } },
        },
      ],
    };
    expect(directoryEntries(answer)?.rows).toEqual([
      { email: 'ada@here.example', name: 'Ada Quist', place: 'Fern house', groups: ['Leads'], entry: 'a1' },
      { email: 'bo@here.example', name: 'Bo Rask', manager: 'ada@here.example', entry: 'b2' },
    ]);
  });

  it('is none where there are no entries, and says what its entries do not tell', () => {
    expect(directoryEntries({ error: 'nobody' })).toBeNull();
    expect(directoryEntries([{ manager: { name: 'Ada', email: 'ada@here.example' } }])?.missing).toEqual([
      'email',
      'name',
    ]);
  });
});
