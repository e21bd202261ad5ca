import type { Question } from '../../core/form/design';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly question: Question;
  readonly change: (part: Partial<Question>) => void;
}

/** In which use of the form an answer must be given. */
export function RequiredFor({ question, change }: Props) {
  return (
    <Select
      label={speak`When it must be filled`}
      value={question.requiredFor ?? 'both'}
      choices={[
        { value: 'both', label: speak`always` },
        { value: 'new', label: speak`in a new record` },
        { value: 'change', label: speak`when a record is changed` },
      ]}
      onChange={(value) =>
        change({ requiredFor: value === 'both' ? undefined : (value as 'new' | 'change') })
      }
    />
  );
}

/** What becomes of a question where a new record is made, and where one is changed by the form. */
export function ByUse({ question, inGroup, change }: Props & { readonly inGroup: boolean }) {
  const isCalculated = question.kind === 'calculated';
  return (
    <section className="margin-part" aria-label={speak`New and changed records`}>
      {!inGroup && (
        <Sentence>{speakIn`In a new record it is ${(
          <Select
            label={speak`In a new record`}
            value={question.onNew ?? 'asked'}
            choices={[
              { value: 'asked', label: isCalculated ? speak`shown` : speak`asked` },
              { value: 'hidden', label: isCalculated ? speak`not shown` : speak`not asked` },
            ]}
            onChange={(value) => change({ onNew: value === 'hidden' ? 'hidden' : undefined })}
          />
        )}`}</Sentence>
      )}
      <Sentence>{speakIn`When a record is changed it is ${(
        <Select
          label={speak`When a record is changed`}
          value={question.onChange ?? 'asked'}
          choices={[
            { value: 'asked', label: isCalculated ? speak`shown` : speak`asked` },
            ...(isCalculated ? [] : [{ value: 'locked', label: speak`shown, not to be changed` }]),
            { value: 'hidden', label: speak`not shown` },
          ]}
          onChange={(value) =>
            change({ onChange: value === 'asked' ? undefined : (value as 'locked' | 'hidden') })
          }
        />
      )}`}</Sentence>
    </section>
  );
}
