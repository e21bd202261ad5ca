import { useState } from 'react';
import { choicesFrom, keysTaken, replaceQuestion } from '../../core/form/edit';
import type { FieldQuestion, Question, RowsQuestion, Total } from '../../core/form/design';
import type { TotalOf } from '../../core/form/totals';
import { keyFor } from '../../core/form/key';
import { pickScope } from '../../core/form/lookup-filter';
import { newShortId } from '../../core/kernel/ids';
import { ExpressionInput } from '../kit/ExpressionInput';
import { InCurrency, InUnit, WithDecimals } from '../kit/LineSettings';
import { ListPick } from '../kit/ListPick';
import { Select } from '../kit/Select';
import { NumberWord, Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import type { Workbench } from './use-workbench';

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
      return <InUnit measure={{ decimals: null, unit: question.unit }} onChange={change} />;
    case 'decimal':
      return <WithDecimals measure={question} onChange={change} />;
    case 'money':
      return <InCurrency measure={question} onChange={change} />;
    case 'confirmation':
      return (
        <LongWord
          label="What is confirmed"
          value={question.statement}
          placeholder="I have read the safety sheet"
          onChange={(statement) => change({ statement })}
        />
      );
    case 'files':
      return (
        <Sentence>
          as many as{' '}
          <NumberWord
            label="Most files"
            value={question.most}
            least={1}
            onChange={(most) => change({ most })}
          />{' '}
          <Select
            label="What may be added"
            value={question.what}
            choices={[
              { value: 'photos', label: 'photos' },
              { value: 'files', label: 'files of any kind' },
            ]}
            onChange={(what) => change({ what: what === 'files' ? 'files' : 'photos' })}
          />
        </Sentence>
      );
    case 'fixed-text':
      return (
        <LongWord
          label="What it says"
          value={question.text}
          placeholder="What colleagues should know here"
          onChange={(text) => change({ text })}
        />
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
        <Sentence>
          and offer{' '}
          <Select
            label="Which records are offered"
            value={question.where === undefined ? 'all' : 'where'}
            choices={[
              { value: 'all', label: 'all of them' },
              { value: 'where', label: 'only those of which it is true that' },
            ]}
            onChange={(value) => change({ where: value === 'where' ? '' : undefined })}
          />
        </Sentence>
      )}
      {table !== undefined && question.where !== undefined && (
        <ExpressionInput
          key={question.id}
          label="Only records of which it is true that"
          stored={question.where}
          scope={pickScope(bench.design, bench.tables, question, bench.group ?? undefined)}
          example={`${columns[0]?.key ?? 'section'} = …`}
          onChange={(where) => change({ where })}
        />
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
      <Sentence>
        no two of them alike in{' '}
        <Several
          label="Columns that tell rows apart"
          values={group.distinct ?? []}
          none="anything; rows may repeat"
          choices={group.columns
            .filter(({ kind }) => kind !== 'files')
            .map(({ id, label }) => ({ value: id, label }))}
          onChange={(distinct) => change({ distinct: distinct.length === 0 ? undefined : distinct })}
        />
      </Sentence>
      {countable.length > 0 && (
        <Sentence>
          Show under the rows, of{' '}
          {countable.map((column) => (
            <TotalPick key={column.id} bench={bench} group={group} column={column} short />
          ))}
        </Sentence>
      )}
    </>
  );
}

const totalWords: Readonly<Record<TotalOf, string>> = {
  sum: 'the sum',
  count: 'how many are filled',
  mean: 'the mean',
  least: 'the least',
  most: 'the most',
};
const totalLabels: Readonly<Record<TotalOf, string>> = {
  sum: 'Total',
  count: 'Filled',
  mean: 'Mean',
  least: 'Least',
  most: 'Most',
};

/** The words of an owner stay; those it came with go with what is shown. */
const totalLabel = ({ label }: Total, of: string): string =>
  Object.values(totalLabels).includes(label) ? totalLabels[of as TotalOf] : label;

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
  const setOf = (of: string) =>
    bench.edit((design) =>
      replaceQuestion(design, group.id, (one) =>
        one.kind !== 'rows'
          ? one
          : {
              ...one,
              totals: one.totals.map((each) =>
                each.column === column.id
                  ? { ...each, of: of === 'sum' ? undefined : (of as TotalOf), label: totalLabel(each, of) }
                  : each,
              ),
            },
      ),
    );
  return (
    <span className="my-1 mr-2 flex flex-wrap items-center gap-1.5 text-[14px]">
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="size-4 accent-lichen"
          checked={total !== undefined}
          onChange={(event) => set(event.target.checked)}
        />
        {short ? column.label : 'Show a total of it under the rows'}
      </label>
      {total !== undefined && (
        <Select
          label={`What is shown of ${column.label}`}
          value={total.of ?? 'sum'}
          choices={Object.entries(totalWords).map(([value, label]) => ({ value, label }))}
          onChange={setOf}
        />
      )}
    </span>
  );
}
