import type { Check } from '../../core/check/check';
import { newShortId } from '../../core/kernel/ids';
import type { Workbench } from './use-workbench';

/** Adds a check at a line and says its id; what must hold is picked next. */
export function addCheck(bench: Workbench, on: string): string {
  const check: Check = { id: newShortId(), on, must: '', message: '', otherwise: 'stop' };
  bench.edit((design) => ({ ...design, checks: [...design.checks, check] }));
  return check.id;
}
