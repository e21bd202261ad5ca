import { useEffect, useState } from 'react';
import type { FixedText } from '../../core/form/design';

/** Signs that CommonMark gives a meaning; text without them is shown as it is, and nothing is fetched for it. */
const MARKED = /[*_`#>[\\]|^\s*(?:[-+]|\d+[.)])\s/m;

/** Words between the questions: CommonMark without HTML and pictures, so that nothing in it runs or is fetched from elsewhere. */
export function FixedTextView({ question: { label, text } }: { question: FixedText }) {
  const html = useMarkup(text);
  return (
    <div className="max-w-[68ch]">
      {label !== '' && <p className="mb-1 font-semibold break-words">{label}</p>}
      {html === null ? (
        <p className="break-words whitespace-pre-wrap">{text}</p>
      ) : (
        <div className="marked-up break-words" dangerouslySetInnerHTML={{ __html: html }} />
      )}
    </div>
  );
}

function useMarkup(text: string): string | null {
  const [made, setMade] = useState<{ text: string; html: string } | null>(null);
  useEffect(() => {
    if (!MARKED.test(text)) return;
    let left = false;
    void import('./markup').then(({ asHtml }) => {
      if (!left) setMade({ text, html: asHtml(text) });
    });
    return () => {
      left = true;
    };
  }, [text]);
  return made?.text === text ? made.html : null;
}
