import { useEffect, useId, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { read } from '../../core/expression/read';
import { toShown, toStored } from '../../core/expression/stored-text';
import type { Scope } from '../../core/expression/type';
import { issueSentence } from '../../core/wording/issue-sentence';
import { pickables } from '../../core/check/pick';
import type { Editor } from './expression-editor';
import { speak } from '../../core/wording/speak';

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
  const { place, insert, isThere } = useEditor({
    label,
    text,
    scope,
    own,
    example,
    onChange: change,
    onBlur: () => setTyped(null),
  });
  const names = pickables(scope)
    .flatMap(({ text: name }) => (name === own || name.includes('(') ? [] : [name]))
    .sort((a, b) => farOff(a) - farOff(b));
  return (
    <div data-own-undo>
      <div ref={place} />
      {!isThere && (
        <textarea
          aria-label={label}
          aria-describedby={id}
          data-likeness
          readOnly
          rows={2}
          className="box bg-slate-50 font-mono text-[14px]"
          value={text}
          placeholder={example}
        />
      )}
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
      <Names names={names} onPick={insert} />
    </div>
  );
}

/** Answers come first, then what belongs to one, then whoever sends it. */
const farOff = (name: string): number => (/^sender\b/.test(name) ? 2 : name.includes('.') ? 1 : 0);

/** As many as are taken in at a glance; the editor completes all of them. */
const FEW = 10;

/** The names an expression may use, to be put in where the cursor is. */
function Names({ names, onPick }: { names: readonly string[]; onPick: (name: string) => void }) {
  const [all, setAll] = useState(false);
  return (
    <>
      <p className="quiet mt-1.5">{speak`It may use`}</p>
      <p className="flex flex-wrap gap-1.5">
        {(all ? names : names.slice(0, FEW)).map((name) => (
          <button
            key={name}
            type="button"
            className="name min-h-[24px] min-w-[24px] text-[13px]"
            onClick={() => onPick(name)}
          >
            {name}
          </button>
        ))}
        {names.length > FEW && (
          <button
            type="button"
            className="button-plain text-[13px]!"
            aria-expanded={all}
            onClick={() => setAll(!all)}
          >
            {all ? speak`fewer` : speak`${names.length - FEW} more`}
          </button>
        )}
      </p>
    </>
  );
}

type Ports = Parameters<typeof import('./expression-editor').expressionEditor>[1];

/** The editor is fetched when the first expression is shown; until then the text can be read. */
function useEditor(ports: Ports) {
  const place = useRef<HTMLDivElement>(null);
  const editor = useRef<Editor | null>(null);
  const [isThere, setThere] = useState(false);
  const latest = useRef(ports);
  useEffect(() => {
    latest.current = ports;
    editor.current?.useScope(ports.scope);
    editor.current?.show(ports.text);
  });
  useEffect(() => {
    let left = false;
    void import('./expression-editor').then(({ expressionEditor }) => {
      if (left || place.current === null) return;
      // The likeness goes in the moment the editor comes: nobody ever finds two of them.
      flushSync(() => setThere(true));
      editor.current = expressionEditor(place.current, {
        ...latest.current,
        onChange: (text) => {
          if (text !== latest.current.text) latest.current.onChange(text);
        },
        onBlur: () => latest.current.onBlur(),
      });
    });
    return () => {
      left = true;
      editor.current?.end();
      editor.current = null;
    };
  }, []);
  return { place, insert: (text: string) => editor.current?.insert(text), isThere };
}
