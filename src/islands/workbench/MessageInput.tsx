import { messageShown, messageStored } from '../../core/check/message';
import { pickables } from '../../core/check/pick';
import type { Scope } from '../../core/expression/type';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly label: string;
  readonly message: string;
  readonly scope: Scope;
  readonly placeholder: string;
  readonly most?: number;
  readonly onChange: (message: string) => void;
}

/** Words in which names in braces are worth what stands there then. */
export function MessageInput({ label, message, scope, placeholder, most, onChange }: Props) {
  const shown = messageShown(message, scope);
  return (
    <>
      <textarea
        aria-label={label}
        rows={2}
        className="box"
        placeholder={placeholder}
        maxLength={most}
        value={shown}
        onChange={(event) => onChange(messageStored(event.target.value, scope))}
      />
      <Sentence>
        <span className="quiet">{speak`with the value of`}</span>
        <Select
          label={speak`Value in the ${label.toLowerCase()}`}
          value={null}
          placeholder={speak`an answer`}
          choices={pickables(scope).map(({ text }) => ({ value: text, label: text }))}
          onChange={(name) =>
            onChange(messageStored(`${shown}${/(^|\s)$/.test(shown) ? '' : ' '}{${name}}`, scope))
          }
        />
      </Sentence>
    </>
  );
}
