import { mentioned } from '../../core/approval/mentioned';
import { questionsOf } from '../../core/form/design';
import { lineNumbers } from '../../core/form/numbered-lines';
import { Select } from '../kit/Select';
import type { Reviewing } from './reviewing';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Offered by name; more are typed. */
const MOST_NAMES = 8;
const ALL = 'all';

interface Props {
  readonly review: Reviewing;
  readonly word: string;
  readonly onWord: (word: string) => void;
  /** The question a word is about; null for all of it. */
  readonly about: string | null;
  readonly onAbout: (question: string | null) => void;
}

/** Which line a word is about, and whom it names: those are told besides. */
export function RemarkTools({ review: { submission, data }, word, onWord, about, onAbout }: Props) {
  const numbers = lineNumbers(data.design);
  const lines = questionsOf(data.design).filter(({ kind }) => kind !== 'fixed-text');
  const named = mentioned(word, submission.onPath);
  const offered = submission.onPath.filter(({ id }) => !named.some((one) => one.id === id));
  return (
    <div className="mt-1 grid gap-1 text-[14px]">
      <span>{speakIn`About ${(
        <Select
          label={speak`What a word is about`}
          value={about ?? ALL}
          choices={[
            { value: ALL, label: speak`all of it` },
            ...lines.map(({ id, label }) => ({
              value: id,
              label: `${numbers.get(id) ?? ''} ${label}`.trim(),
              short: speak`line ${numbers.get(id) ?? label}`,
            })),
          ]}
          onChange={(value) => onAbout(value === ALL ? null : value)}
        />
      )}`}</span>
      <span className="flex flex-wrap items-center gap-x-2 gap-y-1">
        {named.length > 0 && (
          <span role="status">{speakIn`${(<strong>{named.map(({ name }) => name).join(', ')}</strong>)} will be told.`}</span>
        )}
        {offered.slice(0, MOST_NAMES).map(({ id, name }) => (
          <button
            key={id}
            type="button"
            className="button-plain text-[13px]!"
            onClick={() => onWord(`${word.trimEnd()}${word.trim() === '' ? '' : ' '}@${name} `)}
          >
            @{name}
          </button>
        ))}
      </span>
    </div>
  );
}
