import { limits } from '../../core/limits';

interface Props {
  readonly label: string;
  readonly placeholder: string;
  readonly button: string;
  readonly word: string;
  readonly onWord: (word: string) => void;
  /** Null while something else is missing, or it is under way. */
  readonly onMove: (() => void) | null;
}

/** Why something is moved, without which it is not. */
export function MoveWord({ label, placeholder, button, word, onWord, onMove }: Props) {
  return (
    <>
      <textarea
        rows={2}
        className="box"
        maxLength={limits.word}
        aria-label={label}
        placeholder={placeholder}
        value={word}
        onChange={(event) => onWord(event.target.value)}
      />
      <p className="mt-1">
        <button
          type="button"
          className="button button-dark"
          disabled={onMove === null || word.trim() === ''}
          onClick={() => onMove?.()}
        >
          {button}
        </button>
      </p>
    </>
  );
}
