import type { Answers } from '../../core/form/answers';

/** As whom and when a form is rehearsed, and with whose answers. It stays while one goes to another face and back. */
export interface RehearsalSetting {
  readonly as: string;
  /** ISO day and time of day of the workspace; empty for now. */
  readonly day: string;
  readonly time: string;
  readonly of: string | null;
  readonly answers: Answers | null;
}
