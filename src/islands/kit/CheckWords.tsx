import { pickedOf, pickedSentence, pickSentence } from '../../core/check/pick';
import { toShown } from '../../core/expression/stored-text';
import type { Scope } from '../../core/expression/type';
import { CircleX, MessageSquareWarning } from './icons';
import { speak } from '../../core/wording/speak';

/** What must hold, as a sentence where picking can say it, else as it is written. */
export function ConditionWords({ must, scope }: { readonly must: string; readonly scope: Scope }) {
  const text = toShown(must, scope);
  const picked = pickedOf(text, scope);
  const [pick, ...more] = picked?.picks ?? [];
  if (picked !== null && more.length > 0) return <span>{pickedSentence(picked, scope, 'must be')}</span>;
  if (pick === undefined)
    return <code className="font-mono break-words">{text || speak`what must hold?`}</code>;
  const words = pickSentence(pick, scope, 'must be');
  return (
    <>
      <span className="name">{words.left}</span> {words.words} <span className="name">{words.right}</span>
    </>
  );
}

/** What a check does where it is broken, and what it says. */
export function CheckTag({
  otherwise,
  message,
}: {
  readonly otherwise: 'stop' | 'ask';
  readonly message: string;
}) {
  return (
    <>
      {otherwise === 'stop' ? (
        <span className="tag bg-rust-soft text-rust">
          <CircleX size={14} aria-hidden />
          {speak`Stops`}
        </span>
      ) : (
        <span className="tag bg-ochre-soft text-ochre">
          <MessageSquareWarning size={14} aria-hidden />
          {speak`Asks for a reason`}
        </span>
      )}
      {message !== '' && <span className="quiet">“{message}”</span>}
    </>
  );
}
