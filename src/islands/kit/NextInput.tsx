import { useState, type KeyboardEvent } from 'react';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly label: string;
  readonly placeholder: string;
  /** Of several lines or cells, when they were pasted. */
  readonly onAdd: (text: string) => void;
}

/** Where the next of a list is typed, or several are pasted. */
export function NextInput({ label, placeholder, onAdd }: Props) {
  const [text, setText] = useState('');
  const add = () => {
    onAdd(text);
    setText('');
  };
  const press = (event: KeyboardEvent) => {
    if (event.key !== 'Enter') return;
    // Within a form, Enter would send it.
    event.preventDefault();
    if (text.trim() !== '') add();
  };
  return (
    <div className="flex gap-2">
      <input
        aria-label={label}
        className="box border-dashed"
        placeholder={placeholder}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={press}
        onPaste={(event) => {
          const pasted = event.clipboardData.getData('text');
          if (!/[\n\t]/.test(pasted.trim())) return;
          event.preventDefault();
          onAdd(pasted);
        }}
      />
      {text.trim() !== '' && <button type="button" className="button" onClick={add}>{speak`Add`}</button>}
    </div>
  );
}

/** One word for each line or cell of what was typed or pasted. */
export const pastedLines = (text: string): string[] =>
  text
    .split(/[\n\t]/)
    .map((one) => [...one.trim()].slice(0, 200).join(''))
    .filter((one) => one !== '');
