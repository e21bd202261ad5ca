import { z } from 'zod';
import { byMail, type ByMail, type NoticeKind } from '../core/notice/notice';

export const lookedAt = z.union([
  z.object({ upTo: z.number().int().min(1).max(Number.MAX_SAFE_INTEGER) }).strict(),
  z.object({ submission: z.uuid() }).strict(),
]);

export const howTold = z.object({ byMail: z.enum(byMail) }).strict();

export interface NoticesData {
  readonly notices: readonly {
    readonly id: number;
    readonly kind: NoticeKind;
    readonly submission: string;
    readonly sentence: string;
    readonly word: string;
    readonly at: string;
    readonly seen: boolean;
  }[];
}

export interface TellingData {
  readonly byMail: ByMail;
  readonly hasCalendar: boolean;
  /** Whether a mail server is named here. */
  readonly mails: boolean;
}
