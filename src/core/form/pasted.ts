import type { ColumnChoice } from '../table/model';
import type { Raw } from './answers';
import type { FieldQuestion } from './design';

const yes = new Set(['yes', 'y', 'true', '1', '✓', 'x']);
const no = new Set(['no', 'n', 'false', '0', '✗']);

/** Text from elsewhere as it would be typed in an answer: choices by their words, yes and no by theirs. What fits nothing stays text, and is reported at its cell. */
export function pastedRaw(question: FieldQuestion, text: string): Raw {
  const plain = text.trim();
  const small = plain.toLowerCase();
  if (question.kind === 'choice') return chosen(question.choices, small) ?? text;
  if (question.kind === 'yes-no') return yes.has(small) ? true : no.has(small) ? false : text;
  return question.kind === 'text' ? text : plain;
}

/** By its words first, as they are what people read; then by its code. One that is offered no more may still be what an older record holds. */
function chosen(choices: readonly ColumnChoice[], small: string): string | undefined {
  const called = choices.filter(({ label }) => label.toLowerCase() === small);
  const stored = choices.filter(({ code }) => code.toLowerCase() === small);
  const [first] = [...called, ...stored].sort(
    (a, b) => Number(a.retired === true) - Number(b.retired === true),
  );
  return first?.code;
}
