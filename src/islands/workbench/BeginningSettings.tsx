import { beginningScope, rowBeginnings } from '../../core/form/defaults';
import type { Beginning, FieldQuestion, Question } from '../../core/form/design';
import { isTyped } from '../../core/form/design';
import { asKept } from '../../core/formats/typed';
import { pastedRaw } from '../../core/form/pasted';
import { ExpressionInput } from '../kit/ExpressionInput';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly question: FieldQuestion;
  readonly change: (part: Partial<Question>) => void;
  readonly inRows: boolean;
}

const ways: Readonly<Record<Beginning['t'], Beginning>> = {
  value: { t: 'value', raw: null },
  formula: { t: 'formula', expression: '' },
  address: { t: 'address' },
  last: { t: 'last' },
};

/** What stands there when a sheet is begun, and whether whoever fills it sees it. */
export function BeginningSettings({ bench, question, change, inRows }: Props) {
  const { begins, hidden } = question;
  const isLookup = question.kind === 'lookup';
  const choices = [
    { value: 'nothing', label: speak`nothing` },
    ...(isLookup ? [] : [{ value: 'value', label: 'a value' }]),
    { value: 'formula', label: speak`what an expression gives` },
    ...(isLookup ? [] : [{ value: 'address', label: speak`what the address says` }]),
    { value: 'last', label: speak`what was answered the last time` },
  ].filter(({ value }) => !inRows || value === 'nothing' || rowBeginnings.some((way) => way === value));
  return (
    <section className="margin-part" aria-label={speak`What it begins with`}>
      {isTyped(question) && (
        <Sentence>
          {inRows ? speak`Each row begins with` : speak`It begins with`}{' '}
          <Select
            label={speak`What it begins with`}
            value={begins?.t ?? 'nothing'}
            choices={choices}
            onChange={(value) => change({ begins: ways[value as Beginning['t']] })}
          />
          {begins?.t === 'value' && (
            <Word
              label={speak`Value it begins with`}
              value={shownRaw(question, begins)}
              placeholder={speak`a value`}
              onChange={(text) =>
                change({
                  begins: {
                    t: 'value',
                    raw: text.trim() === '' ? null : pastedRaw(question, asKept(question.kind, text)),
                  },
                })
              }
            />
          )}
          {begins?.t === 'address' && (
            <span className="quiet">{`/fill/${bench.data.key}?${question.key}=…`}</span>
          )}
        </Sentence>
      )}
      {begins?.t === 'formula' && (
        <ExpressionInput
          key={question.id}
          label={speak`Expression it begins with`}
          stored={begins.expression}
          scope={beginningScope}
          example={example(question)}
          onChange={(expression) => change({ begins: { t: 'formula', expression } })}
        />
      )}
      {!inRows && (
        <Sentence>{speakIn`It is ${(
          <Select
            label={speak`Whether it is shown`}
            value={hidden === true ? 'hidden' : 'shown'}
            choices={[
              { value: 'shown', label: speak`shown to whoever fills it` },
              { value: 'hidden', label: 'hidden, and fills itself' },
            ]}
            onChange={(value) => change({ hidden: value === 'hidden' ? true : undefined })}
          />
        )}`}</Sentence>
      )}
    </section>
  );
}

const example = (question: FieldQuestion): string =>
  question.kind === 'lookup'
    ? 'sender'
    : question.kind === 'date'
      ? 'today()'
      : question.kind === 'date-time'
        ? 'now()'
        : 'sender.place';

function shownRaw(question: FieldQuestion, { raw }: Extract<Beginning, { t: 'value' }>): string {
  if (typeof raw === 'boolean') return raw ? speak`yes` : speak`no`;
  if (question.kind === 'choice')
    return question.choices.find(({ code }) => code === raw)?.label ?? raw ?? '';
  return raw ?? '';
}
