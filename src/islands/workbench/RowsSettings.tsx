import { keysTaken, replaceQuestion } from '../../core/form/edit';
import { withinRows } from '../../core/form/change/arrange';
import {
  groupsIn,
  pickedColumn,
  type FieldQuestion,
  type FormDesign,
  type LookupQuestion,
  type RowsQuestion,
  type StartingRows,
  type Total,
} from '../../core/form/design';
import type { TotalOf } from '../../core/form/totals';
import { pickScope } from '../../core/form/lookup-filter';
import { keyFor } from '../../core/form/key';
import { newShortId } from '../../core/kernel/ids';
import { Picks } from '../kit/CheckPicks';
import { ExpressionInput } from '../kit/ExpressionInput';
import { Select } from '../kit/Select';
import { NumberWord, Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { SameRows } from './SameRows';
import type { Workbench } from './use-workbench';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly group: RowsQuestion;
  readonly change: (part: Partial<RowsQuestion>) => void;
}

/** How many rows, which of them may be alike, what they begin with, how they look, and what stands under them. */
export function RowsSettings({ bench, group, change }: Props) {
  const countable = group.columns.filter(({ kind }) =>
    ['whole', 'decimal', 'money', 'calculated'].includes(kind),
  );
  const [first] = group.columns;
  return (
    <>
      <Sentence>{speakIn`Ask for at least ${(<NumberWord label={speak`Least rows`} value={group.least} onChange={(least) => change({ least })} />)} and at most ${(<NumberWord label={speak`Most rows`} value={group.most} least={1} onChange={(most) => change({ most })} />)} rows`}</Sentence>
      {first?.kind === 'lookup' && group.columns.length === 1 && (
        <Sentence>{speakIn`shown as ${(
          <Select
            label={speak`How rows look`}
            value={pickedColumn(group) === null ? 'rows' : 'picks'}
            choices={[
              { value: 'rows', label: speak`rows of a table` },
              { value: 'picks', label: speak`names in a line` },
            ]}
            onChange={(value) =>
              // Picking one twice says nothing.
              change(value === 'picks' ? { asPicks: true, distinct: [first.id] } : { asPicks: undefined })
            }
          />
        )}`}</Sentence>
      )}
      <Sentence>{speakIn`no two of them alike in ${(
        <Several
          label={speak`Columns that tell rows apart`}
          values={group.distinct ?? []}
          none={speak`anything; rows may repeat`}
          choices={group.columns
            .filter(({ kind }) => kind !== 'files')
            .map(({ id, label }) => ({ value: id, label }))}
          onChange={(distinct) => change({ distinct: distinct.length === 0 ? undefined : distinct })}
        />
      )}`}</Sentence>
      <Within bench={bench} group={group} />
      {group.within === undefined && <Starts bench={bench} group={group} change={change} />}
      {countable.length > 0 && (
        <div className="mb-2 text-[14px]">
          {speak`Under the rows stands`}
          {countable.map((column) => (
            <Sentence
              key={column.id}
            >{speakIn`of ${column.label}, ${(<TotalsPick bench={bench} group={group} column={column} none="nothing" />)}`}</Sentence>
          ))}
        </div>
      )}
    </>
  );
}

/** Whether they stand in the form, or in each row of others. */
function Within({ bench, group }: Pick<Props, 'bench' | 'group'>) {
  const { design } = bench;
  const others = groupsIn(design, null).filter((one) => one.id !== group.id && one.asPicks !== true);
  if (groupsIn(design, group).length > 0 || (others.length === 0 && group.within === undefined)) return null;
  return (
    <Sentence>{speakIn`They stand in ${(
      <Select
        label={speak`Where these rows stand`}
        value={group.within ?? 'form'}
        choices={[
          { value: 'form', label: speak`the form` },
          ...others.map(({ id, label }) => ({
            value: id,
            label: speak`each row of ${label || speak`rows without words`}`,
          })),
        ]}
        onChange={(value) => bench.edit((now) => withinRows(now, group.id, value === 'form' ? null : value))}
      />
    )}`}</Sentence>
  );
}

/** What stands there when a new sheet is begun. */
function Starts({ bench, group, change }: Props) {
  const lookups = group.columns.filter(({ kind }) => kind === 'lookup');
  const { starts } = group;
  const column = starts?.t === 'each' ? lookups.find(({ id }) => id === starts.lookup) : undefined;
  const value = starts?.t === 'each' ? starts.lookup : (starts?.t ?? 'none');
  return (
    <>
      <Sentence>
        {speakIn`A new sheet begins with ${(
          <Select
            label={speak`What a new sheet begins with`}
            value={value}
            choices={[
              { value: 'none', label: speak`no rows` },
              { value: 'empty', label: speak`empty rows` },
              { value: 'same', label: speak`the same rows each time` },
              ...lookups.map(({ id, label }) => ({
                value: id,
                label: speak`a row for each ${label} on offer`,
              })),
            ]}
            onChange={(next) => change({ starts: startingWith(next, group) })}
          />
        )}`}
        {starts?.t === 'empty' && (
          <>
            {', '}
            {speakIn`${(
              <NumberWord
                label={speak`Empty rows`}
                value={starts.count}
                least={1}
                onChange={(count) => change({ starts: { t: 'empty', count } })}
              />
            )} of them`}
          </>
        )}
      </Sentence>
      {starts?.t === 'each' && column?.kind === 'lookup' && (
        <EachWhere bench={bench} lookup={column} starts={starts} change={change} />
      )}
      {starts?.t === 'same' && (
        <SameRows
          group={group}
          rows={starts.rows}
          onChange={(rows) => change({ starts: { t: 'same', rows } })}
        />
      )}
    </>
  );
}

/** Of which of the records on offer. */
function EachWhere({
  bench,
  lookup,
  starts,
  change,
}: Pick<Props, 'bench' | 'change'> & {
  readonly lookup: LookupQuestion;
  readonly starts: Extract<StartingRows, { t: 'each' }>;
}) {
  const scope = pickScope(bench.design, bench.tables, lookup);
  const set = (where: string | undefined) => change({ starts: { ...starts, where } });
  return (
    <>
      <Sentence>
        <Select
          label={speak`Of which records`}
          value={starts.where === undefined ? 'all' : 'where'}
          choices={[
            { value: 'all', label: speak`whatever it is` },
            { value: 'where', label: speak`of which it is true that` },
          ]}
          onChange={(value) => set(value === 'where' ? '' : undefined)}
        />
      </Sentence>
      {starts.where !== undefined && (
        <>
          <Picks
            must={starts.where}
            scope={scope}
            change={set}
            ownKey={[...scope.keys()][0] ?? ''}
            isDemand={false}
          />
          <ExpressionInput
            label={speak`A row where it is true that`}
            stored={starts.where}
            scope={scope}
            onChange={set}
          />
        </>
      )}
    </>
  );
}

function startingWith(value: string, { starts }: RowsQuestion): StartingRows | undefined {
  switch (value) {
    case 'none':
      return undefined;
    case 'empty':
      return { t: 'empty', count: 3 };
    case 'same':
      return { t: 'same', rows: starts?.t === 'same' ? starts.rows : [] };
    default:
      return { t: 'each', lookup: value };
  }
}

const totalWords = spoken((): Readonly<Record<TotalOf, string>> => ({
  sum: speak`the sum`,
  count: speak`how many are filled`,
  mean: speak`the mean`,
  least: speak`the least`,
  most: speak`the most`,
}));
const totalLabels = spoken((): Readonly<Record<TotalOf, string>> => ({
  sum: speak`Total`,
  count: speak`Filled`,
  mean: speak`Mean`,
  least: speak`Least`,
  most: speak`Most`,
}));

/** What is made of a column over the rows; each is kept beside the answers of the form. */
export function TotalsPick({
  bench,
  group,
  column,
  none,
}: {
  readonly bench: Workbench;
  readonly group: RowsQuestion;
  readonly column: FieldQuestion;
  readonly none: string;
}) {
  const own = group.totals.filter((one) => one.column === column.id);
  return (
    <Several
      label={speak`What is shown of ${column.label}`}
      values={own.map(({ of = 'sum' }) => of)}
      none={none}
      choices={Object.entries(totalWords()).map(([value, label]) => ({ value, label }))}
      onChange={(values) =>
        bench.edit((design) =>
          replaceQuestion(design, group.id, (one) =>
            one.kind === 'rows'
              ? { ...one, totals: totalsWith(design, one, column, values as TotalOf[]) }
              : one,
          ),
        )
      }
    />
  );
}

/** Those that are shown already keep their place, their key and their words. */
function totalsWith(
  design: FormDesign,
  group: RowsQuestion,
  column: FieldQuestion,
  wanted: readonly TotalOf[],
): Total[] {
  const stays = group.totals.filter((one) => one.column !== column.id || wanted.includes(one.of ?? 'sum'));
  const there = new Set(stays.filter((one) => one.column === column.id).map(({ of = 'sum' }) => of));
  const taken = keysTaken(design);
  const added = wanted
    .filter((of) => !there.has(of))
    .map((of): Total => {
      const key = keyFor(`${of === 'sum' ? speak`total` : of}_${column.key}`, taken);
      taken.add(key);
      return {
        id: newShortId(),
        key,
        label: totalLabels()[of],
        column: column.id,
        ...(of !== 'sum' && { of }),
      };
    });
  return [...stays, ...added];
}
