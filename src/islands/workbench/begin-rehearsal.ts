import type { SheetData } from '../../contract/sheet-from-server';
import type { Answers } from '../../core/form/answers';
import type { Rehearsed } from '../../core/form/rehearsed';
import { call, troubleInFull } from '../kit/call';
import { momentOf, type RehearsalSetting } from './rehearsal-setting';
import type { Workbench } from './use-workbench';

/** The draft as the server has it, filled with the answers one begins with. Throws a sentence that can be shown. */
export async function beginRehearsal(bench: Workbench, setting: RehearsalSetting): Promise<SheetData> {
  if (!(await bench.keep()))
    throw new Error('Your edits could not be saved, so there is nothing to rehearse yet');
  const { as, of, answers } = setting;
  const result = await call<SheetData>('PUT', `/api/forms/${bench.data.id}/rehearsal`, {
    as,
    at: momentOf(setting),
    of: answers === null ? of : null,
    answers,
  });
  if (result.ok) return result.value;
  throw new Error(troubleInFull(result.error));
}

/** What sending these answers would come to, by the draft as the server has it. Throws a sentence that can be shown. */
export async function rehearsed(bench: Workbench, answers: Answers): Promise<Rehearsed> {
  const { as } = bench.rehearsal;
  const result = await call<Rehearsed>('POST', `/api/forms/${bench.data.id}/rehearsal`, {
    as,
    at: momentOf(bench.rehearsal),
    answers,
  });
  if (result.ok) return result.value;
  throw new Error(troubleInFull(result.error));
}
