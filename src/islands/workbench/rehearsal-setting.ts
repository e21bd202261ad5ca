import type { SheetData } from '../../contract/sheet-from-server';
import type { Answers } from '../../core/form/answers';
import { call } from '../kit/call';
import type { Workbench } from './use-workbench';

/** As whom and when a form is rehearsed, and with whose answers. It stays while one goes to another face and back. */
export interface RehearsalSetting {
  readonly as: string;
  /** ISO day and time of day of the workspace; today without a time is now. */
  readonly day: string;
  readonly time: string;
  readonly of: string | null;
  readonly answers: Answers | null;
  /** Grows when other answers are laid in the sheet. */
  readonly round: number;
}

export const today = (): string => new Date().toLocaleDateString('sv-SE');

/** Null for now. Another day without a time is meant in the morning, when people work. */
export const momentOf = ({ day, time }: RehearsalSetting): string | null =>
  /^\d\d:\d\d$/.test(time) ? `${day}T${time}` : day === today() ? null : `${day}T09:00`;

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
  throw new Error(
    [result.error.title, ...(result.error.issues ?? []).map(({ sentence }) => sentence)].join('. '),
  );
}
