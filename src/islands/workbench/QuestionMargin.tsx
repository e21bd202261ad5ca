import { ArrowDown, ArrowUp, Plus, ShieldCheck, Trash2 } from '../kit/icons';
import { useState } from 'react';
import { toShown } from '../../core/expression/stored-text';
import { pickedOf, pickedSentence } from '../../core/check/pick';
import {
  asKind,
  choicesFrom,
  keysTaken,
  moveQuestion,
  removeQuestion,
  replaceQuestion,
} from '../../core/form/edit';
import type { FieldQuestion, Question, QuestionKind, RowsQuestion } from '../../core/form/design';
import { keyFor } from '../../core/form/key';
import { ListPick } from '../kit/ListPick';
import { NumberWord, Sentence, Word } from '../kit/Sentence';
import { Select } from '../kit/Select';
import { Several } from '../kit/Several';
import { addCheck } from './add-check';
import { ExpressionInput } from '../kit/ExpressionInput';
import { columnKindChoices, kindChoices } from './kind-words';
import { newShortId, newUuid } from '../../core/kernel/ids';
import { sayWithUndo } from '../kit/Toasts';
import type { Workbench } from './use-workbench';

/** The settings of the line in hand, as sentences. */
export function QuestionMargin({ bench }: { bench: Workbench }) {
  const { question, group } = bench;
  if (question === null) {
    return (
      <div className="margin-part first">
        <h2 className="margin-title">Begin by asking</h2>
        <p className="quiet">
          Type a question on the sheet and press Enter. Its kind is guessed from its words; you change it
          here.
        </p>
      </div>
    );
  }
  const change = (part: Partial<Question>) =>
    bench.edit((design) => replaceQuestion(design, question.id, (one) => ({ ...one, ...part }) as Question));
  return (
    <>
      <section className="margin-part first" aria-label="The question">
        <div className="mb-2 flex items-start gap-2">
          <span className="pt-1 font-mono text-[13px] font-semibold text-lichen">
            {bench.numbers.get(question.id)}
          </span>
          <textarea
            aria-label="Words of the question"
            rows={1}
            className="field-sizing-content w-full resize-none rounded border border-slate-300 bg-white px-1.5 py-0.5 font-semibold"
            value={question.label}
            maxLength={200}
            onChange={(event) => change({ label: event.target.value.replaceAll('\n', ' ') })}
          />
        </div>
        <Sentence>
          A <KindPick bench={bench} question={question} inGroup={group !== null} /> called{' '}
          <KeyWord bench={bench} question={question} />
        </Sentence>
        {question.kind !== 'calculated' && (
          <Sentence>
            which{' '}
            <Select
              label="Must it be filled"
              value={question.required ? 'yes' : 'no'}
              choices={[
                { value: 'no', label: 'may stay empty' },
                { value: 'yes', label: 'must be filled' },
              ]}
              onChange={(value) => change({ required: value === 'yes' })}
            />
          </Sentence>
        )}
        <KindSettings bench={bench} question={question} change={change} />
        <Sentence>
          with the hint{' '}
          <Word label="Hint" value={question.hint} placeholder="none" onChange={(hint) => change({ hint })} />
        </Sentence>
        <Moves bench={bench} id={question.id} label={question.label} />
      </section>
      <AskedWhen bench={bench} question={question} change={change} />
      {group !== null && (
        <p className="margin-part">
          <button type="button" className="button-plain" onClick={() => bench.select(group.id)}>
            Settings of all of {group.label}
          </button>
        </p>
      )}
      <ChecksHere bench={bench} question={question} />
    </>
  );
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
  const scope = bench.scope(bench.group ?? undefined);
  const picked = question.askWhen === undefined ? null : pickedOf(toShown(question.askWhen, scope), scope);
  return (
    <section className="margin-part" aria-label="When it is asked">
      <Sentence>
        It is {question.kind === 'calculated' ? 'shown' : 'asked'}{' '}
        <Select
          label="When it is asked"
          value={question.askWhen === undefined ? 'always' : 'when'}
          choices={[
            { value: 'always', label: 'always' },
            { value: 'when', label: 'only while' },
          ]}
          onChange={(value) => change({ askWhen: value === 'when' ? '' : undefined })}
        />
        {picked !== null && ` ${pickedSentence(picked, scope, 'is')}`}
      </Sentence>
      {question.askWhen !== undefined && (
        <ExpressionInput
          key={question.id}
          label="It is asked while"
          stored={question.askWhen}
          scope={scope}
          own={question.key}
          onChange={(askWhen) => change({ askWhen })}
        />
      )}
    </section>
  );
}

function Moves({ bench, id, label }: { bench: Workbench; id: string; label: string }) {
  return (
    <div className="mt-2 flex gap-2">
      <button
        type="button"
        className="button"
        aria-label="Move it up"
        onClick={() => bench.edit((design) => moveQuestion(design, id, -1))}
      >
        <ArrowUp size={15} aria-hidden />
      </button>
      <button
        type="button"
        className="button"
        aria-label="Move it down"
        onClick={() => bench.edit((design) => moveQuestion(design, id, 1))}
      >
        <ArrowDown size={15} aria-hidden />
      </button>
      <button
        type="button"
        className="button button-stop"
        onClick={() => {
          const before = bench.design;
          const after = removeQuestion(before, id);
          const lost = before.checks.length - after.checks.length;
          bench.edit(() => after);
          bench.select(null);
          sayWithUndo(
            `${label} taken out${lost === 0 ? '' : `, with ${lost === 1 ? 'the check' : `the ${lost} checks`} on it`}`,
            // What was edited since is not undone with it.
            () => bench.edit((now) => (now === after ? before : now)),
          );
        }}
      >
        <Trash2 size={15} aria-hidden />
        Take it out
      </button>
    </div>
  );
}

function KindPick({ bench, question, inGroup }: { bench: Workbench; question: Question; inGroup: boolean }) {
  const set = (kind: string) =>
    bench.edit((design) =>
      replaceQuestion(design, question.id, (one) =>
        asKind(
          one,
          kind as QuestionKind,
          {
            id: newUuid(),
            key: keyFor(
              `${design.table.key}_${one.key}`,
              new Set(bench.data.tables.map(({ key }) => key)),
              'rows',
            ),
            label: `${design.title}: ${one.label}`.slice(0, 200),
            prefix: `${design.table.prefix}${one.key[0]?.toUpperCase() ?? 'L'}`.slice(0, 6),
          },
          bench.data.currency,
        ),
      ),
    );
  return (
    <Select
      label="Kind of answer"
      value={question.kind}
      choices={inGroup ? columnKindChoices : kindChoices}
      onChange={set}
    />
  );
}

/** The key follows what is typed only when it is left, for a half-typed key would be refused at every letter. */
function KeyWord({ bench, question }: { bench: Workbench; question: Question }) {
  const [typed, setTyped] = useState<string | null>(null);
  const leave = () => {
    if (typed !== null && typed.trim() !== '') {
      bench.edit((design) => {
        const taken = keysTaken(design, bench.group?.id);
        taken.delete(question.key);
        return replaceQuestion(design, question.id, (one) => ({ ...one, key: keyFor(typed, taken) }));
      });
    }
    setTyped(null);
  };
  return (
    <span onBlur={leave}>
      <Word
        label="Key, used in expressions and as the column"
        mono
        value={typed ?? question.key}
        onChange={setTyped}
      />
    </span>
  );
}

interface SettingsProps {
  readonly bench: Workbench;
  readonly question: Question;
  readonly change: (part: Partial<Question>) => void;
}

function KindSettings({ bench, question, change }: SettingsProps) {
  switch (question.kind) {
    case 'text':
      return (
        <Sentence>
          written in{' '}
          <Select
            label="Length"
            value={question.long ? 'long' : 'short'}
            choices={[
              { value: 'short', label: 'one line' },
              { value: 'long', label: 'several lines' },
            ]}
            onChange={(value) => change({ long: value === 'long' })}
          />
        </Sentence>
      );
    case 'whole':
      return (
        <Sentence>
          in{' '}
          <Word
            label="Unit"
            value={question.unit}
            placeholder="no unit"
            onChange={(unit) => change({ unit })}
          />
        </Sentence>
      );
    case 'decimal':
      return <Decimals question={question} change={change} />;
    case 'money':
      return (
        <Sentence>
          with{' '}
          <NumberWord
            label="Decimals"
            value={question.decimals}
            most={4}
            onChange={(decimals) => change({ decimals })}
          />{' '}
          decimals, in{' '}
          <Word
            label="Currency"
            value={question.unit}
            placeholder="currency"
            onChange={(unit) => change({ unit: unit.toUpperCase().slice(0, 3) })}
          />
        </Sentence>
      );
    case 'choice':
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
          <Decimals question={question} change={change} />
          <p className="mb-1 text-[14px]">It calculates</p>
          <ExpressionInput
            key={question.id}
            label="Expression"
            stored={question.expression}
            own={question.key}
            scope={bench.scope(bench.group ?? undefined)}
            onChange={(expression) => change({ expression })}
          />
          {bench.group !== null && <TotalPick bench={bench} group={bench.group} column={question} />}
        </>
      );
    case 'rows':
      return <RowsSettings bench={bench} group={question} change={change} />;
    default:
      return null;
  }
}

function Decimals({
  question,
  change,
}: {
  question: Extract<Question, { kind: 'decimal' | 'calculated' }>;
  change: SettingsProps['change'];
}) {
  return (
    <Sentence>
      with{' '}
      <NumberWord
        label="Decimals"
        value={question.decimals}
        most={8}
        onChange={(decimals) => change({ decimals })}
      />{' '}
      decimals, in{' '}
      <Word label="Unit" value={question.unit} placeholder="no unit" onChange={(unit) => change({ unit })} />
    </Sentence>
  );
}

function Choices({
  question,
  change,
}: {
  question: Extract<Question, { kind: 'choice' }>;
  change: SettingsProps['change'];
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <label className="mb-2 block text-[14px]">
      of these, a line each
      <textarea
        rows={5}
        className="box mt-1"
        value={typed ?? question.choices.map(({ label }) => label).join('\n')}
        placeholder={'Exchange\nSeed\nPurchase'}
        onChange={(event) => {
          setTyped(event.target.value);
          change({ choices: choicesFrom(event.target.value, question.choices) });
        }}
        onBlur={() => setTyped(null)}
      />
    </label>
  );
}

function LookupSettings({
  bench,
  question,
  change,
}: {
  bench: Workbench;
  question: Extract<Question, { kind: 'lookup' }>;
  change: SettingsProps['change'];
}) {
  const table = bench.tables.get(question.table);
  const columns = (table?.columns ?? []).filter(({ kind }) => kind !== 'reference');
  return (
    <>
      <Sentence>
        Pick from{' '}
        <Select
          label="Table to pick from"
          value={question.table || null}
          placeholder="a table"
          choices={bench.data.tables.map(({ id, label }) => ({ value: id, label }))}
          onChange={(id) => change({ table: id, show: [] })}
        />
      </Sentence>
      {table !== undefined && (
        <Sentence>
          Show its name and{' '}
          <Several
            label="Columns shown"
            values={question.show}
            none="nothing more"
            choices={columns.map(({ id, label }) => ({ value: id, label }))}
            onChange={(show) => change({ show })}
          />
        </Sentence>
      )}
      {table !== undefined && (
        <p className="quiet mb-1.5">
          Everything shown is searched. Expressions may use{' '}
          {columns
            .slice(0, 3)
            .map(({ key }) => `${question.key}.${key}`)
            .join(', ')}
          .
        </p>
      )}
    </>
  );
}

function RowsSettings({
  bench,
  group,
  change,
}: {
  bench: Workbench;
  group: RowsQuestion;
  change: SettingsProps['change'];
}) {
  const countable = group.columns.filter(
    (column) =>
      column.kind === 'whole' ||
      column.kind === 'decimal' ||
      column.kind === 'money' ||
      column.kind === 'calculated',
  );
  return (
    <>
      <Sentence>
        Ask for at least{' '}
        <NumberWord label="Least rows" value={group.least} onChange={(least) => change({ least })} /> and at
        most{' '}
        <NumberWord label="Most rows" value={group.most} least={1} onChange={(most) => change({ most })} />{' '}
        rows
      </Sentence>
      {countable.length > 0 && (
        <Sentence>
          Show a total of{' '}
          {countable.map((column) => (
            <TotalPick key={column.id} bench={bench} group={group} column={column} short />
          ))}
        </Sentence>
      )}
    </>
  );
}

function TotalPick({
  bench,
  group,
  column,
  short = false,
}: {
  bench: Workbench;
  group: RowsQuestion;
  column: FieldQuestion;
  short?: boolean;
}) {
  const total = group.totals.find((one) => one.column === column.id);
  const set = (on: boolean) =>
    bench.edit((design) =>
      replaceQuestion(design, group.id, (one) => {
        if (one.kind !== 'rows') return one;
        if (!on) return { ...one, totals: one.totals.filter((each) => each.column !== column.id) };
        return {
          ...one,
          totals: [
            ...one.totals,
            {
              id: newShortId(),
              key: keyFor(`total_${column.key}`, keysTaken(design)),
              label: 'Total',
              column: column.id,
            },
          ],
        };
      }),
    );
  return (
    <label className="my-1 mr-2 flex items-center gap-1.5 text-[14px]">
      <input
        type="checkbox"
        className="size-4 accent-lichen"
        checked={total !== undefined}
        onChange={(event) => set(event.target.checked)}
      />
      {short ? column.label : 'Show a total of it under the rows'}
    </label>
  );
}

function ChecksHere({ bench, question }: { bench: Workbench; question: Question }) {
  const scope = bench.scope(bench.group ?? undefined);
  const here = bench.design.checks.filter((check) => check.on === question.id);
  return (
    <section className="margin-part" aria-labelledby="checks-here">
      <h2 id="checks-here" className="margin-title">
        <ShieldCheck size={16} aria-hidden />
        Checks on this line
      </h2>
      {here.map((check) => {
        const text = toShown(check.must, scope);
        const picked = pickedOf(text, scope);
        return (
          <p key={check.id} className="mb-2 text-[14px]">
            {picked === null ? (
              <code className="font-mono">{text || 'a check without a condition'}</code>
            ) : (
              pickedSentence(picked, scope, 'must be')
            )}
            <span className="quiet block">
              {check.otherwise === 'stop' ? 'Stops' : 'Asks for a reason'} · “{check.message}”
            </span>
          </p>
        );
      })}
      <button type="button" className="button-plain" onClick={() => addCheck(bench, question.id)}>
        <Plus size={15} aria-hidden />
        Check
      </button>
      {here.length > 0 && <p className="quiet">Change them under Check.</p>}
    </section>
  );
}
