import type { FormOfTable } from '../../contract/answers-from-server';
import { formAddress } from './form-address';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** The forms a record can be looked at, and changed, by. */
export function ByForm({ forms, number }: { forms: readonly FormOfTable[]; number: string }) {
  if (forms.length === 0) return null;
  return (
    <ul className="mt-2 grid gap-1 text-[14px]">
      {forms.map(({ key, title, mayChange }) => (
        <li key={key} className="flex flex-wrap items-center gap-x-2">
          {speakIn`In ${title}:${(
            <a
              className="inline-flex min-h-6 items-center text-lichen-deep underline"
              href={formAddress(key, number, false)}
            >{speak`look at it`}</a>
          )}`}
          {mayChange && (
            <a
              className="inline-flex min-h-6 items-center text-lichen-deep underline"
              href={formAddress(key, number, true)}
            >{speak`change it`}</a>
          )}
        </li>
      ))}
    </ul>
  );
}
