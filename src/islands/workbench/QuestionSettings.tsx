import { AddPicture } from './AddPicture';
import { useState } from 'react';
import { choicesFrom, replaceQuestion } from '../../core/form/edit';
import type { Question } from '../../core/form/design';
import { ExpressionInput } from '../kit/ExpressionInput';
import { InCurrency, InUnit, WithDecimals } from '../kit/LineSettings';
import { ListPick } from '../kit/ListPick';
import { Select } from '../kit/Select';
import { NumberWord, Sentence } from '../kit/Sentence';
import { LookupSettings } from './LookupSettings';
import { RowsSettings, TotalsPick } from './RowsSettings';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface SettingsProps {
  readonly bench: Workbench;
  readonly question: Question;
  readonly change: (part: Partial<Question>) => void;
}

/** What only questions of a kind have to be told. */
export function QuestionSettings({ bench, question, change }: SettingsProps) {
  switch (question.kind) {
    case 'text':
      return (
        <Sentence>{speakIn`written in ${(
          <Select
            label={speak`Length`}
            value={question.long ? 'long' : 'short'}
            choices={[
              { value: 'short', label: speak`one line` },
              { value: 'long', label: speak`several lines` },
            ]}
            onChange={(value) => change({ long: value === 'long' })}
          />
        )}`}</Sentence>
      );
    case 'whole':
      return <InUnit measure={{ decimals: null, unit: question.unit }} onChange={change} />;
    case 'decimal':
      return <WithDecimals measure={question} onChange={change} />;
    case 'money':
      return <InCurrency measure={question} onChange={change} />;
    case 'confirmation':
      return (
        <LongWord
          label={speak`What is confirmed`}
          value={question.statement}
          placeholder={speak`I have read the safety sheet`}
          onChange={(statement) => change({ statement })}
        />
      );
    case 'files':
      return (
        <Sentence>{speakIn`as many as ${(
          <NumberWord
            label={speak`Most files`}
            value={question.most}
            least={1}
            onChange={(most) => change({ most })}
          />
        )} ${(
          <Select
            label={speak`What may be added`}
            value={question.what}
            choices={[
              { value: 'photos', label: speak`photos` },
              { value: 'files', label: speak`files of any kind` },
            ]}
            onChange={(what) => change({ what: what === 'files' ? 'files' : 'photos' })}
          />
        )}`}</Sentence>
      );
    case 'fixed-text':
      return (
        <>
          <LongWord
            label={speak`What it says`}
            value={question.text}
            placeholder={speak`What colleagues should know here`}
            onChange={(text) => change({ text })}
          />
          <AddPicture
            form={bench.data.id}
            onAdded={(picture) =>
              // As the text is by then: somebody may go on typing meanwhile.
              bench.edit((design) => replaceQuestion(design, question.id, (one) => withPicture(one, picture)))
            }
          />
        </>
      );
    case 'choice':
    case 'choices':
      return (
        <ListPick
          lists={bench.data.lists}
          list={question.list ?? null}
          choices={question.choices}
          name={question.label}
          onChange={({ list, choices }) => change({ choices, list: list ?? undefined })}
        >
          <Choices question={question} change={change} />
        </ListPick>
      );
    case 'lookup':
      return <LookupSettings bench={bench} question={question} change={change} />;
    case 'calculated':
      return (
        <>
          <WithDecimals measure={question} onChange={change} />
          <p className="mb-1 text-[14px]">{speak`It calculates`}</p>
          <ExpressionInput
            key={question.id}
            label={speak`Expression`}
            stored={question.expression}
            own={question.key}
            scope={bench.scope(bench.group ?? undefined)}
            onChange={(expression) => change({ expression })}
          />
          {bench.group !== null && (
            <Sentence>{speakIn`under the rows stands ${(<TotalsPick bench={bench} group={bench.group} column={question} none={speak`nothing of it`} />)}`}</Sentence>
          )}
        </>
      );
    case 'rows':
      return <RowsSettings bench={bench} group={question} change={change} />;
    default:
      return null;
  }
}

const withPicture = (one: Question, picture: string): Question =>
  one.kind === 'fixed-text' ? { ...one, text: `${one.text.trimEnd()}\n\n${picture}`.trimStart() } : one;

/** Words of several lines. */
function LongWord({
  label,
  value,
  placeholder,
  onChange,
}: {
  label: string;
  value: string;
  placeholder: string;
  onChange: (value: string) => void;
}) {
  return (
    <label className="mb-2 block text-[14px]">
      {label}
      <textarea
        rows={4}
        className="box mt-1"
        value={value}
        placeholder={placeholder}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

function Choices({
  question,
  change,
}: {
  question: Extract<Question, { kind: 'choice' | 'choices' }>;
  change: SettingsProps['change'];
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <label className="mb-2 block text-[14px]">
      {speak`of these, a line each`}
      <textarea
        rows={5}
        className="box mt-1"
        value={typed ?? question.choices.map(({ label }) => label).join('\n')}
        placeholder={speak`Exchange
Seed
Purchase`}
        onChange={(event) => {
          setTyped(event.target.value);
          change({ choices: choicesFrom(event.target.value, question.choices) });
        }}
        onBlur={() => setTyped(null)}
      />
    </label>
  );
}
