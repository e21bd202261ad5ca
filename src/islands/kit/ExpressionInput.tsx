import { useId, useMemo, useState } from 'react';
import { read } from '../../core/expression/read';
import { toShown, toStored } from '../../core/expression/stored-text';
import type { Scope } from '../../core/expression/type';
import { issueSentence } from '../../core/wording/issue-sentence';
import { pickables } from '../../core/check/pick';

interface Props {
  readonly label: string;
  readonly stored: string;
  readonly scope: Scope;
  readonly onChange: (stored: string) => void;
  /** The key of what the expression belongs to, which it cannot use itself. */
  readonly own?: string;
  /** Shown while nothing is written. */
  readonly example?: string;
}

/** FEEL as text: read as it is typed, wrong places shown by their words, names at hand. It is kept by ids. */
export function ExpressionInput({ label, stored, scope, onChange, own, example = 'rate * area' }: Props) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? toShown(stored, scope);
  const result = useMemo(() => read(text, scope), [text, scope]);
  const change = (next: string) => {
    setTyped(next);
    onChange(toStored(next, scope));
  };
  return (
    <div>
      <textarea
        aria-label={label}
        aria-describedby={id}
        aria-invalid={!result.ok && text.trim() !== ''}
        rows={2}
        spellCheck={false}
        className="box bg-slate-50 font-mono text-[14px]"
        value={text}
        onChange={(event) => change(event.target.value)}
        onBlur={() => setTyped(null)}
        placeholder={example}
      />
      <div id={id} aria-live="polite">
        {!result.ok &&
          text.trim() !== '' &&
          result.error.slice(0, 3).map((issue, i) => (
            <p key={i} className="trouble">
              <code className="font-mono">
                {text.slice(Number(issue.facts['from']), Number(issue.facts['to'])) || '…'}
              </code>
              {issueSentence(issue)}
            </p>
          ))}
      </div>
      <p className="quiet mt-1.5">It may use</p>
      <p className="flex flex-wrap gap-1.5">
        {pickables(scope)
          .filter((one) => one.text !== own && !one.text.includes('('))
          .map((one) => (
            <button
              key={one.text}
              type="button"
              className="name min-h-[24px] min-w-[24px] text-[13px]"
              onClick={() => change(`${text}${text === '' || text.endsWith(' ') ? '' : ' '}${one.text}`)}
            >
              {one.text}
            </button>
          ))}
      </p>
    </div>
  );
}
