import type { Raw } from './answers';
import type { FieldQuestion } from './design';

const yes = new Set(['yes', 'y', 'true', '1', '✓', 'x']);
const no = new Set(['no', 'n', 'false', '0', '✗']);

/** Text from elsewhere as it would be typed in an answer: choices by their words, yes and no by theirs. What fits nothing stays text, and is reported at its cell. */
export function pastedRaw(question: FieldQuestion, text: string): Raw {
  const plain = text.trim();
  const small = plain.toLowerCase();
  if (question.kind === 'choice')
    return (
      question.choices.find(
        ({ code, label, retired }) => retired !== true && (label.toLowerCase() === small || code === plain),
      )?.code ?? text
    );
  if (question.kind === 'yes-no') return yes.has(small) ? true : no.has(small) ? false : text;
  return question.kind === 'text' ? text : plain;
}
