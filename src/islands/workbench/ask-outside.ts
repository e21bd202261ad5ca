import type { OutsideData } from '../../contract/outside';
import { speak } from '../../core/wording/speak';

/** Asks for something about people outside; false where it was refused, and the reason is said beside. */
export type AskOutside = (
  method: 'PUT' | 'POST' | 'DELETE',
  at: string,
  body: unknown,
  done: string,
) => Promise<boolean>;

type Said = Pick<OutsideData, 'welcome' | 'thanks' | 'lookups' | 'origins' | 'mailTo' | 'language'>;

/** Says a part of it otherwise; the rest stays as it was looked at. */
export const sayOtherwise = (
  { version, welcome, thanks, lookups, origins, mailTo, language }: OutsideData,
  ask: AskOutside,
  part: Partial<Said>,
): Promise<boolean> =>
  ask(
    'PUT',
    'outside',
    { version, welcome, thanks, lookups, origins, mailTo, language, ...part },
    speak`Saved; it holds from now on.`,
  );
