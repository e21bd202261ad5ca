import type { FixedText } from '../../core/form/design';

/** Words between the questions, with their line breaks. */
export function FixedTextView({ question: { label, text } }: { question: FixedText }) {
  return (
    <div className="max-w-[68ch]">
      {label !== '' && <p className="mb-1 font-semibold break-words">{label}</p>}
      <p className="break-words whitespace-pre-wrap">{text}</p>
    </div>
  );
}
