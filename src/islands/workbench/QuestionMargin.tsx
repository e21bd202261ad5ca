import { Plus, ShieldCheck } from '../kit/icons';
import { toShown } from '../../core/expression/stored-text';
import { messageShown } from '../../core/check/message';
import { pickedOf, pickedSentence } from '../../core/check/pick';
import { askedKind, asKind, keysTaken, replaceQuestion, type AskedKind } from '../../core/form/edit';
import {
  groupsIn,
  homeOf,
  isField,
  isTyped,
  outerOf,
  type FieldQuestion,
  type FormDesign,
  type Question,
} from '../../core/form/design';
import { keyFor } from '../../core/form/key';
import { ExpressionInput } from '../kit/ExpressionInput';
import { KeyWord, LabelBox, LineMoves, RequiredPick } from '../kit/LineSettings';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import { addCheck } from './add-check';
import { duplicateLine, moveLine, tableForRows, takeOut } from './line-edits';
import { columnKindChoices, kindChoices } from '../../core/wording/kind-words';
import { BeginningSettings } from './BeginningSettings';
import { QuestionSettings } from './QuestionSettings';
import { ByUse, RequiredFor } from './ByUse';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** The settings of the line in hand, as sentences. */
export function QuestionMargin({ bench }: { bench: Workbench }) {
  const { question, group } = bench;
  if (question === null) {
    return (
      <div className="margin-part first">
        <h2 className="margin-title">{speak`Begin by asking`}</h2>
        <p className="quiet">{speak`Type a question on the sheet and press Enter. Its kind is guessed from its words; you change it here.`}</p>
      </div>
    );
  }
  const isText = question.kind === 'fixed-text';
  const change = (part: Partial<Question>) =>
    bench.edit((design) => replaceQuestion(design, question.id, (one) => ({ ...one, ...part }) as Question));
  return (
    <>
      <section className="margin-part first" aria-label={speak`The question`}>
        <div className="mb-2 flex items-start gap-2">
          <span className="pt-1 font-mono text-[13px] font-semibold text-lichen">
            {bench.numbers.get(question.id)}
          </span>
          <LabelBox
            label={question.kind === 'fixed-text' ? speak`Heading of the text` : speak`Words of the question`}
            value={question.label}
            onChange={(label) => change({ label })}
          />
        </div>
        <Sentence>
          {speakIn`Its kind is ${(<KindPick bench={bench} question={question} inGroup={group !== null} />)}`}
          {isText ? (
            speak`, which nobody answers`
          ) : (
            <>
              {' '}
              {speakIn`and its key ${(
                <KeyWord
                  label={speak`Key, used in expressions and as the column`}
                  value={question.key}
                  onLeave={(typed) =>
                    bench.edit((design) => withKey(design, question, bench.group?.id, typed))
                  }
                />
              )}`}
            </>
          )}
        </Sentence>
        {question.kind !== 'calculated' && !isText && (
          <Sentence>
            {speakIn`It ${(<RequiredPick required={question.required} onChange={(required) => change({ required })} />)}`}
            {question.required && (
              <>
                {' '}
                <RequiredFor question={question} change={change} />
              </>
            )}
          </Sentence>
        )}
        <QuestionSettings bench={bench} question={question} change={change} />
        {!isText && (
          <Sentence>{speakIn`with the hint ${(
            <Word
              label={speak`Hint`}
              value={question.hint}
              placeholder={speak`none`}
              onChange={(hint) => change({ hint })}
            />
          )}`}</Sentence>
        )}
        <LineMoves
          removal={speak`Take it out`}
          onMove={mayMove(bench.design, question) ? (by) => moveLine(bench, question.id, by) : null}
          onDuplicate={() => duplicateLine(bench, question.id)}
          onRemove={() => takeOut(bench, [question.id])}
        />
      </section>
      {group === null && isField(question) && isTyped(question) && question.kind !== 'files' && (
        <label className="margin-part flex items-center gap-2 text-[14px]">
          <input
            type="checkbox"
            className="size-4 accent-lichen"
            checked={question.again === true}
            onChange={({ target }) => change({ again: target.checked ? true : undefined })}
          />
          {speak`The answer stays for the next one that is filled right after`}
        </label>
      )}
      {isField(question) && mayBegin(question, group !== null) && (
        <BeginningSettings bench={bench} question={question} change={change} inRows={group !== null} />
      )}
      <AskedWhen bench={bench} question={question} change={change} />
      {!isText && <ByUse question={question} inGroup={group !== null} change={change} />}
      {group !== null && (
        <p className="margin-part">
          <button
            type="button"
            className="button-plain"
            onClick={() => bench.select(group.id)}
          >{speak`Settings of all of ${group.label}`}</button>
        </p>
      )}
      {!isText && <ChecksHere bench={bench} question={question} />}
    </>
  );
}

/** Rows are typed in one after the other: a pick in each comes from its lookup, and what is calculated begins with nothing. */
const mayBegin = (question: FieldQuestion, inRows: boolean): boolean =>
  question.kind !== 'files' &&
  question.kind !== 'choices' &&
  (!inRows || (question.kind !== 'lookup' && isTyped(question)));

/** Rows within rows change places with others in the same rows alone. */
const mayMove = (design: FormDesign, question: Question): boolean => {
  const outer = outerOf(design, question);
  return outer === null || groupsIn(design, outer).length > 1;
};

function withKey(
  design: FormDesign,
  question: Question,
  group: string | undefined,
  typed: string,
): FormDesign {
  const taken = keysTaken(design, group);
  taken.delete(question.key);
  return replaceQuestion(design, question.id, (one) => ({ ...one, key: keyFor(typed, taken) }));
}

/** Whether it is asked always, or only while something is so. */
function AskedWhen({
  bench,
  question,
  change,
}: {
  bench: Workbench;
  question: Question;
  change: (part: Partial<Question>) => void;
}) {
  const scope = bench.scope(homeOf(bench.design, question.id) ?? undefined);
  const picked = question.askWhen === undefined ? null : pickedOf(toShown(question.askWhen, scope), scope);
  return (
    <section className="margin-part" aria-label={speak`When it is asked`}>
      <Sentence>{speakIn`It is ${question.kind === 'calculated' || question.kind === 'fixed-text' ? speak`shown` : speak`asked`} ${(
        <Select
          label={speak`When it is asked`}
          value={question.askWhen === undefined ? 'always' : 'when'}
          choices={[
            { value: 'always', label: speak`always` },
            { value: 'when', label: speak`only while` },
          ]}
          onChange={(value) => change({ askWhen: value === 'when' ? '' : undefined })}
        />
      )}${picked !== null && ` ${pickedSentence(picked, scope, 'is')}`}`}</Sentence>
      {question.askWhen !== undefined && (
        <ExpressionInput
          key={question.id}
          label={speak`It is asked while`}
          stored={question.askWhen}
          scope={scope}
          own={question.key}
          onChange={(askWhen) => change({ askWhen })}
        />
      )}
    </section>
  );
}

function KindPick({ bench, question, inGroup }: { bench: Workbench; question: Question; inGroup: boolean }) {
  const set = (kind: string) =>
    bench.edit((design) =>
      replaceQuestion(design, question.id, (one) =>
        asKind(one, kind as AskedKind, tableForRows(bench, design, one), bench.data.currency),
      ),
    );
  return (
    <Select
      label={speak`Kind of answer`}
      value={askedKind(question)}
      choices={inGroup ? columnKindChoices() : kindChoices()}
      onChange={set}
    />
  );
}

function ChecksHere({ bench, question }: { bench: Workbench; question: Question }) {
  const scope = bench.scope(homeOf(bench.design, question.id) ?? undefined);
  const here = bench.design.checks.filter((check) => check.on === question.id);
  return (
    <section className="margin-part" aria-labelledby="checks-here">
      <h2 id="checks-here" className="margin-title">
        <ShieldCheck size={16} aria-hidden />
        {speak`Checks on this line`}
      </h2>
      {here.map((check) => {
        const text = toShown(check.must, scope);
        const picked = pickedOf(text, scope);
        return (
          <p key={check.id} className="mb-2 text-[14px]">
            {picked === null ? (
              <code className="font-mono">{text || speak`a check without a condition`}</code>
            ) : (
              pickedSentence(picked, scope, 'must be')
            )}
            <span className="quiet block">
              {check.otherwise === 'stop' ? speak`Stops` : speak`Asks for a reason`} · “
              {messageShown(check.message, scope)}”
            </span>
          </p>
        );
      })}
      <button type="button" className="button-plain" onClick={() => addCheck(bench, question.id)}>
        <Plus size={15} aria-hidden />
        {speak`Check`}
      </button>
      {here.length > 0 && <p className="quiet">{speak`Change them under Check.`}</p>}
    </section>
  );
}
