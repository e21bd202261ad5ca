import { pickables } from '../../core/check/pick';
import { toShown, toStored } from '../../core/expression/stored-text';
import { fits, type Scope } from '../../core/expression/type';
import { groupsOf } from '../../core/form/design';
import {
  groupOfWrite,
  isCounted,
  lookupsFor,
  tableOfWrite,
  typeOfColumn,
} from '../../core/form/further-writes';
import type { ColumnSet, FurtherWrite } from '../../core/storage/further-write';
import { isCalculated, type Column, type Table } from '../../core/table/model';
import { issueSentence } from '../../core/wording/issue-sentence';
import { Picks } from '../kit/CheckPicks';
import { ExpressionInput } from '../kit/ExpressionInput';
import { FilePen, FilePlus2, Plus, Trash2 } from '../kit/icons';
import { Select, type Choice } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly write: FurtherWrite;
}

type Part = Partial<Pick<FurtherWrite, 'when' | 'each' | 'onChange' | 'sets'>> & {
  readonly lookup?: string;
};

/** What is written besides, as sentences to be changed: for which rows, which columns become what, and when. */
export function FurtherMargin({ bench, write }: Props) {
  const { design, tables } = bench;
  const table = tables.get(tableOfWrite(design, write));
  const scope = bench.scope(groupOfWrite(design, write) ?? undefined);
  const change = (part: Part) =>
    bench.edit((now) => ({
      ...now,
      further: (now.further ?? []).map((one) => (one.id === write.id ? { ...one, ...part } : one)),
    }));
  const Icon = write.t === 'add' ? FilePlus2 : FilePen;
  const left = writable(table).filter(({ id }) => !write.sets.some(({ column }) => column === id));
  return (
    <section className="margin-part first">
      <h2 className="margin-title">
        <Icon size={16} aria-hidden />
        {write.t === 'add'
          ? speak`A record is added to ${table?.label ?? '…'}`
          : speak`A record of ${table?.label ?? '…'} is changed`}
      </h2>
      <Where bench={bench} write={write} change={change} />
      {write.sets.map((set) => (
        <SetLine
          key={set.column}
          bench={bench}
          write={write}
          set={set}
          table={table}
          scope={scope}
          change={(part) =>
            change({ sets: write.sets.map((one) => (one === set ? { ...one, ...part } : one)) })
          }
          takeOut={() => change({ sets: write.sets.filter((one) => one !== set) })}
        />
      ))}
      {left.length > 0 && (
        <Sentence>
          <Plus size={14} aria-hidden className="text-lichen" />
          <Select
            label={speak`Another column`}
            value={null}
            placeholder={write.sets.length === 0 ? speak`which column?` : speak`another column`}
            choices={left.map(({ id, label, required }) => ({
              value: id,
              label: write.t === 'add' && required ? speak`${label}, must be filled` : label,
            }))}
            onChange={(column) => change({ sets: [...write.sets, { column, how: 'set', expression: '' }] })}
          />
        </Sentence>
      )}
      <When write={write} scope={scope} change={change} />
      <button
        type="button"
        className="button-plain mt-1"
        onClick={() =>
          bench.edit((now) => ({ ...now, further: (now.further ?? []).filter(({ id }) => id !== write.id) }))
        }
      >
        <Trash2 size={14} aria-hidden />
        {speak`Take this out`}
      </button>
    </section>
  );
}

/** For which rows, and of which lookup. */
function Where({ bench, write, change }: Props & { readonly change: (part: Part) => void }) {
  const groups = groupsOf(bench.design);
  return (
    <>
      {groups.length > 0 && (
        <Sentence>{speakIn`Written ${(
          <Select
            label={speak`How often it is written`}
            value={write.each ?? 'once'}
            choices={[
              { value: 'once', label: speak`once for each sheet` },
              ...groups.map(({ id, label }) => ({ value: id, label: speak`for each row of ${label}` })),
            ]}
            onChange={(value) => change({ each: value === 'once' ? undefined : value })}
          />
        )}`}</Sentence>
      )}
      {write.t === 'change' && (
        <Sentence>{speakIn`of the record picked at ${(
          <Select
            label={speak`Lookup`}
            value={write.lookup}
            placeholder={speak`a lookup`}
            choices={lookupsFor(bench.design, write.each).map(({ id, label }) => ({ value: id, label }))}
            onChange={(lookup) => change({ lookup })}
          />
        )}`}</Sentence>
      )}
    </>
  );
}

const writable = (table: Table | undefined): Column[] =>
  (table?.columns ?? []).filter((column) => !isCalculated(column) && column.kind !== 'files');

const EXPRESSION = 'expression';

function SetLine({
  bench,
  write,
  set,
  table,
  scope,
  change,
  takeOut,
}: Props & {
  readonly set: ColumnSet;
  readonly table: Table | undefined;
  readonly scope: Scope;
  readonly change: (part: Partial<ColumnSet>) => void;
  readonly takeOut: () => void;
}) {
  const column = writable(table).find(({ id }) => id === set.column);
  const issues = bench.issues.filter(({ path }) => path[1] === write.id && path[2] === set.column);
  const offered = column === undefined ? [] : offeredFor(column, scope);
  const text = toShown(set.expression, scope);
  const known = offered.some(({ value }) => value === text);
  return (
    <div className="mb-1 border-l-2 border-slate-200 pl-2">
      <Sentence>
        <strong>{column?.label ?? speak`a column that is gone`}</strong>
        {column !== undefined && isCounted(column) ? (
          <Select
            label={speak`What becomes of ${column.label}`}
            value={set.how}
            choices={[
              { value: 'set', label: speak`becomes` },
              { value: 'raise', label: speak`is raised by` },
              { value: 'lower', label: speak`is lowered by` },
            ]}
            onChange={(how) => change({ how: how as ColumnSet['how'], belowZero: undefined })}
          />
        ) : (
          'becomes'
        )}
        <Select
          label={speak`What ${column?.label ?? speak`it`} becomes`}
          value={known ? text : EXPRESSION}
          choices={[...offered, { value: EXPRESSION, label: speak`what an expression gives` }]}
          onChange={(value) => change({ expression: value === EXPRESSION ? '' : toStored(value, scope) })}
        />
        <button
          type="button"
          className="button-plain px-1! py-0!"
          aria-label={speak`Take ${column?.label ?? speak`it`} out`}
          onClick={takeOut}
        >
          <Trash2 size={13} aria-hidden />
        </button>
      </Sentence>
      {!known && (
        <ExpressionInput
          key={set.column}
          label={speak`Expression for ${column?.label ?? speak`the column`}`}
          stored={set.expression}
          scope={scope}
          example={offered[0]?.value ?? '…'}
          onChange={(expression) => change({ expression })}
        />
      )}
      {set.how === 'lower' && (
        <Sentence>{speakIn`and ${(
          <Select
            label={speak`Whether it may fall below zero`}
            value={set.belowZero === true ? 'may' : 'never'}
            choices={[
              { value: 'never', label: speak`never below zero` },
              { value: 'may', label: speak`may fall below zero` },
            ]}
            onChange={(value) => change({ belowZero: value === 'may' ? true : undefined })}
          />
        )}`}</Sentence>
      )}
      {issues.slice(0, 1).map((issue, i) => (
        <p key={i} className="trouble">
          {issueSentence(issue)}
        </p>
      ))}
    </div>
  );
}

/** What fits a column: its choices, the names of the form, yes and no, the day, who sends it. */
function offeredFor(column: Column, scope: Scope): Choice[] {
  const type = typeOfColumn(column);
  const names = pickables(scope)
    .filter((one) => fits(one.type, type))
    .map(({ text }) => ({ value: text, label: text }));
  const choices = column.choices
    .filter(({ retired }) => retired !== true)
    .map(({ code, label }) => ({ value: `"${code}"`, label: `“${label}”` }));
  const constants: Choice[] =
    type.t === 'yes-no'
      ? [
          { value: 'true', label: speak`yes` },
          { value: 'false', label: speak`no` },
        ]
      : type.t === 'date'
        ? [{ value: 'today()', label: speak`the day it is kept` }]
        : type.t === 'date-time'
          ? [{ value: 'now()', label: speak`the moment it is kept` }]
          : [];
  const nothing: Choice[] = column.required ? [] : [{ value: 'null', label: speak`nothing` }];
  return [...(column.kind === 'choice' ? choices : constants), ...names, ...nothing];
}

/** While what is true, and whether also where a record is changed. */
function When({ write, scope, change }: { write: FurtherWrite; scope: Scope; change: (part: Part) => void }) {
  return (
    <>
      <Sentence>{speakIn`It is written ${(
        <Select
          label={speak`When it is written`}
          value={write.when === undefined ? 'always' : 'when'}
          choices={[
            { value: 'always', label: speak`always` },
            { value: 'when', label: speak`only where it is true that` },
          ]}
          onChange={(value) => change({ when: value === 'always' ? undefined : (write.when ?? '') })}
        />
      )}`}</Sentence>
      {write.when !== undefined && (
        <>
          <Picks
            key={`picks-${write.id}-${write.when === ''}`}
            must={write.when}
            scope={scope}
            change={(when) => change({ when })}
            ownKey={[...scope.keys()].find((key) => key !== 'sender') ?? ''}
            isDemand={false}
          />
          <ExpressionInput
            key={write.id}
            label={speak`Only where it is true that`}
            stored={write.when}
            scope={scope}
            onChange={(when) => change({ when })}
          />
        </>
      )}
      <Sentence>{speakIn`for ${(
        <Select
          label={speak`For which use of the form`}
          value={write.onChange === true ? 'both' : 'new'}
          choices={[
            { value: 'new', label: speak`new records` },
            { value: 'both', label: speak`new records and changes of them` },
          ]}
          onChange={(value) => change({ onChange: value === 'both' ? true : undefined })}
        />
      )}`}</Sentence>
    </>
  );
}
