import { describe, expect, it } from 'vitest';
import {
  designOf,
  isChanged,
  openedQuery,
  PLAIN_LOOK,
  viewAddress,
  type KeptView,
  type ViewDesign,
} from './view';

const design: ViewDesign = {
  find: '',
  where: 'area > 3',
  sort: '-area,gone',
  columns: 'name,gone,bed.section',
  group: 'state',
  layout: 'grid',
  day: '',
  asks: [],
};
const view = (id: string, more: Partial<KeptView> = {}): KeptView => ({
  id,
  label: id,
  ownerId: 'me',
  owner: 'Me',
  for: { everybody: false, groups: [], people: [] },
  isFirst: false,
  design,
  version: 1,
  ...more,
});
const known = new Set(['number', 'name', 'area', 'state', 'bed.section']);
const opened = (asked: Parameters<typeof openedQuery>[0], views: KeptView[] = [], look = PLAIN_LOOK) =>
  openedQuery(asked, { views, look, known });

describe('what an address asks for', () => {
  it('is the plain table where it says nothing, with the columns as the person has them', () => {
    expect(opened({}).query).toMatchObject({ view: null, sort: '-number', columns: '', where: '' });
    const look = { ...PLAIN_LOOK, columns: ['area', 'gone', 'name'] };
    expect(opened({}, [], look).query.columns).toBe('area,name');
    // What is named by the address is taken as it is, and refused where it is gone.
    expect(opened({ columns: 'gone' }, [], look).query.columns).toBe('gone');
  });

  it('is its view without what is gone since, and what it says otherwise', () => {
    const { query } = opened({ view: 'v', find: 'fern' }, [view('v')]);
    expect(query).toMatchObject({
      view: 'v',
      find: 'fern',
      where: 'area > 3',
      sort: '-area',
      columns: 'name,bed.section',
      group: 'state',
    });
    expect(opened({ view: 'x' }, [view('v')]).query).toMatchObject({ view: null, where: '' });
  });

  it('is the first view where it says nothing at all', () => {
    const first = view('first', { isFirst: true });
    expect(opened({}, [view('v'), first]).query.view).toBe('first');
    expect(opened({ sort: 'name' }, [first]).query.view).toBeNull();
  });

  it('waits for values where its view asks for them, until the address has some', () => {
    const asking = view('v', { design: { ...design, asks: ['area'] } });
    expect(opened({ view: 'v' }, [asking]).waits).toBe(true);
    expect(opened({ view: 'v', where: 'area > 9' }, [asking])).toMatchObject({
      waits: false,
      query: { where: 'area > 9' },
    });
    expect(opened({ view: 'v' }, [view('v')]).waits).toBe(false);
  });
});

describe('the address of what is shown', () => {
  it('opens to the same', () => {
    const plain = opened({}).query;
    expect(viewAddress(plain)).toBe('');
    const some = { ...plain, where: 'name = "a & b"', sort: 'name,-area', columns: 'name,bed.section' };
    const asked = Object.fromEntries(new URLSearchParams(viewAddress(some)));
    expect(opened(asked).query).toEqual(some);
    const kept = opened({ view: 'v' }, [view('v')]).query;
    const again = Object.fromEntries(new URLSearchParams(viewAddress(kept)));
    expect(opened(again, [view('v')]).query).toEqual(kept);
    // A condition of the view that was taken away stays away.
    const bare = { ...kept, where: '' };
    expect(opened(Object.fromEntries(new URLSearchParams(viewAddress(bare))), [view('v')]).query.where).toBe(
      '',
    );
  });

  it('tells whether a view was changed', () => {
    const whole = view('v', { design: { ...design, sort: '-area', columns: 'name' } });
    const { query } = opened({ view: 'v' }, [whole]);
    expect(isChanged(query, whole)).toBe(false);
    expect(isChanged({ ...query, layout: 'cards' }, whole)).toBe(true);
    expect(designOf(query, ['area'])).toEqual({ ...whole.design, asks: ['area'] });
  });
});
