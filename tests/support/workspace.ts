import type { KnownPerson } from '../../src/core/expression/person';
import { standardFormats } from '../../src/core/formats/formats';
import { worldAt, type Workspace } from '../../src/core/workspace';

/** As a new workspace has it. */
export const workspace: Workspace = {
  name: '',
  zone: 'Europe/London',
  currency: '',
  formats: standardFormats,
  workdays: [1, 2, 3, 4, 5],
  holidays: [],
  opens: '09:00:00',
  closes: '17:00:00',
};

/** The world of that workspace at a local ISO date-time. */
export const worldOf = (now: string, sender: KnownPerson | null = null): ReturnType<typeof worldAt> =>
  worldAt(workspace, now, sender);
