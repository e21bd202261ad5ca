import { Plus } from './icons';
import { Select } from './Select';
import { Sentence } from './Sentence';
import { speak } from '../../core/wording/speak';
import { speakIn } from './speak-in';

interface Props {
  /** What a check can be on, in one word: a line, a column. */
  readonly what: string;
  readonly places: readonly { readonly value: string; readonly label: string }[];
  readonly onAdd: (on: string) => void;
}

/** The last line of a list of checks, at which one is added. */
export const AddCheckLine = ({ what, places, onAdd }: Props) => (
  <div className="line border-b-0">
    <span className="gutter">
      <Plus size={15} aria-hidden className="ml-auto" />
    </span>
    <Sentence>{speakIn`Add a check on ${(
      <Select
        label={speak`${what[0]?.toUpperCase() ?? ''}${what.slice(1)} of the new check`}
        value={null}
        placeholder={`a ${what}`}
        choices={places}
        onChange={onAdd}
      />
    )}`}</Sentence>
  </div>
);
