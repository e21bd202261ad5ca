import { useState } from 'react';
import { Check, Copy } from './icons';
import { speak } from '../../core/wording/speak';

/** Puts a text where it can be pasted, and says whether that went. */
export function CopyButton({ text, label }: { readonly text: string; readonly label: string }) {
  const [done, setDone] = useState<'' | 'copied' | 'not'>('');
  const copy = () =>
    navigator.clipboard.writeText(text).then(
      () => setDone('copied'),
      () => setDone('not'),
    );
  return (
    <button type="button" className="button" aria-label={label} onClick={() => void copy()}>
      {done === 'copied' ? <Check size={15} aria-hidden /> : <Copy size={15} aria-hidden />}
      <span role="status">
        {done === 'copied' ? speak`Copied` : done === 'not' ? speak`Select it and copy by hand` : speak`Copy`}
      </span>
    </button>
  );
}
