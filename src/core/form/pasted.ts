import { choicesNamed } from '../table/kinds/choices';
import { storedList } from '../table/kinds/stored-list';
import type { ColumnChoice } from '../table/model';
import type { Raw } from './answers';

const yes = new Set(['yes', 'ja', 'y', 'true', '1', '✓', 'x']);
const no = new Set(['no', 'nein', 'n', 'false', '0', '✗']);

/**
 * Text from elsewhere as it would be typed in an answer: choices by their words, yes and no by theirs. What
 * fits nothing stays text, and is reported at its cell.
 */
export function pastedRaw(
  cell: { readonly kind: string; readonly choices?: readonly ColumnChoice[] },
  text: string,
): Raw {
  const plain = text.trim();
  const small = plain.toLowerCase();
  if (cell.kind === 'choices') return severalChosen(cell.choices ?? [], plain) ?? text;
  if (cell.kind === 'choice') return chosen(cell.choices ?? [], small) ?? text;
  if (cell.kind === 'confirmation' && no.has(small)) return null;
  if (cell.kind === 'yes-no' || cell.kind === 'confirmation')
    return yes.has(small) ? true : no.has(small) ? false : text;
  return cell.kind === 'text' ? text : plain;
}

function severalChosen(choices: readonly ColumnChoice[], text: string): string | undefined {
  const named = choicesNamed(text, choices);
  return named === null ? undefined : (storedList(named) ?? '');
}

/**
 * By its words first, as they are what people read; then by its code. One that is offered no more may still
 * be what an older record holds.
 */
function chosen(choices: readonly ColumnChoice[], small: string): string | undefined {
  const called = choices.filter(({ label }) => label.toLowerCase() === small);
  const stored = choices.filter(({ code }) => code.toLowerCase() === small);
  const [first] = [...called, ...stored].sort(
    (a, b) => Number(a.retired === true) - Number(b.retired === true),
  );
  return first?.code;
}
