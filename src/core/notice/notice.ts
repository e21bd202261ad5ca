/** What somebody is told of. */
export type NoticeKind =
  | 'asked'
  | 'kept'
  | 'sent-back'
  | 'declined'
  | 'withdrawn'
  | 'remark'
  | 'soon'
  | 'due'
  | 'late'
  | 'passed'
  | 'corrected';

/** How often somebody wants e-mail. */
export const byMail = ['at-once', 'daily', 'never'] as const;
export type ByMail = (typeof byMail)[number];

/** What a notice tells, with names as they are now. */
export interface NoticeFacts {
  readonly kind: NoticeKind;
  /** Of the form. */
  readonly title: string;
  /** Of what was sent; null where it has none. */
  readonly number: string | null;
  readonly sender: string;
  /** Who did it. */
  readonly by: string;
  /** Whether it was handed over by them. */
  readonly handed: boolean;
  /** Whether nobody did it: it was late, and went on without. */
  readonly passed: boolean;
  /** Who was to decide and is late, where one is asked because of that. */
  readonly insteadOf: string | null;
  /** For whom one stands in; null where it is for oneself. */
  readonly standsInFor: string | null;
  /** What was said with it, as it was typed; may be empty. */
  readonly word: string;
  /** ISO date of the workspace, of `soon`, `due` and `late`. */
  readonly due: string | null;
}
