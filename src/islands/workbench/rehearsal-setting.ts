import type { Answers } from '../../core/form/answers';

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
