import { DndContext, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from '@dnd-kit/core';
import { useMemo, type ReactNode } from 'react';
import { findable } from '../../core/form/findable';
import { replaceQuestion } from '../../core/form/edit';
import { groupsOf, type FormDesign, type TableTarget } from '../../core/form/design';
import { keptAnew, keptIn } from '../../core/form/change/kept-in';
import { newShortId } from '../../core/kernel/ids';
import type { Table } from '../../core/table/model';
import { columnWords } from '../../core/wording/change-sentence';
import { newRecordTitle } from '../../core/wording/record-title';
import { CircleAlert, Database, GripVertical, Plus } from '../kit/icons';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { storeLines, type Holding, type Kept } from './store-lines';
import { TablePick } from './TablePick';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const LINE_PX = 40;
/** The width of the gap the strokes are drawn in. */
const GAP = 100;
const NEW = 'new';

interface Props {
  readonly bench: Workbench;
  readonly table: Table;
  readonly inHand: string | null;
  readonly onPick: (id: string) => void;
}

/** One table: its answers on one side, its columns on the other, and a stroke from each answer to where it is kept. */
export function StoreTable({ bench, table, inHand, onPick }: Props) {
  const there = bench.tables.get(table.id);
  const { kept, columns } = useMemo(
    () => storeLines(bench.design, table, there),
    [bench.design, table, there],
  );
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const put = (id: string, where: string) => {
    const column = columns.find((one) => one.column.id === where)?.column;
    const fresh = newShortId();
    bench.edit((design) =>
      column === undefined ? keptAnew(design, id, fresh) : keptIn(design, id, column, newShortId),
    );
    onPick(column?.id ?? fresh);
  };
  return (
    <section className="border-b border-slate-200 py-3 pr-5 pl-[46px] max-sm:px-3" aria-label={table.label}>
      <TableHead bench={bench} table={table} there={there} />
      <DndContext
        sensors={sensors}
        onDragEnd={({ active, over }) => {
          if (over !== null) put(String(active.id), String(over.id));
        }}
      >
        <div className="relative mt-2 grid grid-cols-[minmax(0,1fr)_100px_minmax(0,1fr)] max-sm:grid-cols-[minmax(0,1fr)_36px_minmax(0,1fr)]">
          <ul aria-label={speak`Answers kept in ${table.label}`}>
            {kept.map((one) => (
              <Answer
                key={one.id}
                kept={one}
                number={bench.numbers.get(one.id) ?? ''}
                column={columns.find(({ column }) => column.id === one.id)}
                inHand={one.id === inHand}
                onPick={() => onPick(one.id)}
              />
            ))}
          </ul>
          <Strokes columns={columns} kept={kept} inHand={inHand} />
          <ul aria-label={speak`Columns of ${table.label}`} className="border-l border-slate-200">
            {columns.map((one) => (
              <ColumnLine key={one.column.id} bench={bench} holding={one} inHand={one.column.id === inHand} />
            ))}
            <NewColumn isThere={there !== undefined} />
          </ul>
        </div>
      </DndContext>
      <p className="quiet mt-1">{speak`${table.parent === null ? '' : speak`The record a row belongs to, its `}${table.parent === null ? speak`Its ` : ''}number, who made and changed it, when, and its history come by themselves.`}</p>
    </section>
  );
}

function Answer({
  kept,
  number,
  column,
  inHand,
  onPick,
}: {
  kept: Kept;
  number: string;
  column: Holding | undefined;
  inHand: boolean;
  onPick: () => void;
}) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: kept.id,
    disabled: kept.question === null,
  });
  return (
    <li className="flex" style={{ height: LINE_PX }}>
      <button
        ref={setNodeRef}
        {...listeners}
        type="button"
        aria-pressed={inHand}
        aria-label={speak`${kept.label}, kept in ${column?.column.label ?? speak`a column of its own`}`}
        onClick={onPick}
        title={kept.label}
        style={
          transform === null ? undefined : { transform: `translate(${transform.x}px, ${transform.y}px)` }
        }
        className={`group/answer my-0.5 flex w-full min-w-0 touch-none items-center gap-2 rounded border px-2 text-left ${inHand ? 'border-lichen bg-lichen-soft' : 'border-transparent hover:border-slate-300'} ${isDragging ? 'relative z-20 border-lichen bg-white' : ''}`}
      >
        <span className="min-w-5 font-mono text-[13px] text-slate-600">{number}</span>
        <span className="truncate">{kept.label || speak`without words`}</span>
        {kept.question !== null && (
          <GripVertical
            size={14}
            aria-hidden
            className="ml-auto shrink-0 text-slate-400 opacity-0 group-hover/answer:opacity-100"
          />
        )}
      </button>
    </li>
  );
}

function Strokes({
  kept,
  columns,
  inHand,
}: {
  kept: readonly Kept[];
  columns: readonly Holding[];
  inHand: string | null;
}) {
  const height = Math.max(kept.length, columns.length + 1) * LINE_PX;
  const middle = (at: number): number => at * LINE_PX + LINE_PX / 2;
  return (
    <svg
      aria-hidden
      viewBox={`0 0 ${GAP} ${height}`}
      preserveAspectRatio="none"
      className="pointer-events-none w-full"
      style={{ height }}
    >
      {columns.map(({ column, from, isOther, isNew }, at) =>
        from === null ? null : (
          <path
            key={column.id}
            d={`M0 ${middle(from)} C${GAP / 2} ${middle(from)} ${GAP / 2} ${middle(at)} ${GAP} ${middle(at)}`}
            fill="none"
            vectorEffect="non-scaling-stroke"
            strokeWidth={column.id === inHand ? 2.5 : 1.5}
            strokeDasharray={isNew ? '5 4' : undefined}
            className={isOther ? 'stroke-rust' : column.id === inHand ? 'stroke-lichen' : 'stroke-slate-400'}
          />
        ),
      )}
    </svg>
  );
}

function ColumnLine({ bench, holding, inHand }: { bench: Workbench; holding: Holding; inHand: boolean }) {
  const { column, isNew, from, isOther } = holding;
  const { setNodeRef, isOver } = useDroppable({ id: column.id });
  const kind = `${columnWords(column)}${column.target === null ? '' : speak` of ${bench.tables.get(column.target)?.label ?? '…'}`}`;
  return (
    <li
      ref={setNodeRef}
      style={{ height: LINE_PX }}
      className={`flex min-w-0 items-center gap-2 px-2 ${isOver ? 'bg-marker-soft' : inHand ? 'bg-lichen-soft' : ''}`}
    >
      <span className={`truncate ${from === null ? 'text-slate-600' : 'font-semibold'}`} title={column.label}>
        {column.label}
      </span>
      <span className="quiet truncate max-sm:hidden">{kind}</span>
      <span className="ml-auto flex shrink-0 items-center gap-1.5">
        {isNew && <span className="tag bg-marker py-0! text-ink">{speak`new`}</span>}
        {isOther && (
          <span className="tag bg-rust-soft py-0! text-rust">
            <CircleAlert size={13} aria-hidden />
            {speak`other kind`}
          </span>
        )}
        {from === null && !isNew && <span className="quiet max-sm:hidden">{speak`not asked here`}</span>}
      </span>
    </li>
  );
}

function NewColumn({ isThere }: { isThere: boolean }) {
  const { setNodeRef, isOver } = useDroppable({ id: NEW });
  if (!isThere) return null;
  return (
    <li
      ref={setNodeRef}
      style={{ height: LINE_PX }}
      className={`quiet flex items-center gap-1.5 px-2 ${isOver ? 'bg-marker-soft' : ''}`}
    >
      <Plus size={14} aria-hidden />
      <span className="truncate">{speak`a new column`}</span>
    </li>
  );
}

/** Where it is: its name, its key, how its records are numbered and called, and what follows sending. */
function TableHead({ bench, table, there }: { bench: Workbench; table: Table; there: Table | undefined }) {
  const isOwn = table.id === bench.design.table.id;
  const set = (part: Partial<TableTarget>) => bench.edit((design) => withTarget(design, table.id, part));
  return (
    <>
      <Sentence>
        <Database size={16} aria-hidden className="text-slate-600" />
        {speakIn`${isOwn ? speak`The answers go to` : speak`The rows go to`} ${isOwn && <TablePick bench={bench} />}${
          (!isOwn || there === undefined) && (
            <Named>
              {isOwn && 'called '}
              <Word
                label={speak`Name of the table`}
                value={table.label}
                onChange={(label) => set({ label })}
              />
            </Named>
          )
        }${
          there !== undefined ? (
            <>{speakIn`kept as ${(<code className="font-mono font-semibold">{speak`records.${there.key}`}</code>)}`}</>
          ) : (
            <>{speakIn`kept as records.${(
              <Word
                mono
                label={speak`Key of the table`}
                value={table.key}
                onChange={(key) => set({ key: key.toLowerCase().replace(/[^a-z0-9_]/g, '_') })}
              />
            )}`}</>
          )
        }numbered ${
          there !== undefined ? (
            <code className="font-mono font-semibold">{there.prefix}</code>
          ) : (
            <Word
              mono
              label={speak`Prefix of its numbers`}
              value={table.prefix}
              onChange={(prefix) => set({ prefix: prefix.toUpperCase().slice(0, 6) })}
            />
          )
        }-year-0001 ${(
          <span
            className={`tag ${there === undefined ? 'bg-marker text-ink' : 'bg-slate-200 text-slate-800'}`}
          >
            {there === undefined ? speak`will be made` : speak`there already`}
          </span>
        )}`}
      </Sentence>
      {isOwn && <FoundBy bench={bench} />}
      {isOwn && <RecordWord bench={bench} />}
      {isOwn && <AfterSending bench={bench} />}
    </>
  );
}

const Named = ({ children }: { children: ReactNode }) => <span>{children}</span>;

function withTarget(design: FormDesign, table: string, part: Partial<TableTarget>): FormDesign {
  if (design.table.id === table) return { ...design, table: { ...design.table, ...part } };
  const group = groupsOf(design).find((one) => one.table.id === table);
  return group === undefined
    ? design
    : replaceQuestion(design, group.id, (one) =>
        one.kind === 'rows' ? { ...one, table: { ...one.table, ...part } } : one,
      );
}

/** Whether sending makes a new record each time, or changes the one that is there. */
function FoundBy({ bench }: { bench: Workbench }) {
  const { finds = [] } = bench.design;
  return (
    <Sentence>
      {speakIn`Sending makes a new record, unless one is there with the same ${(
        <Several
          label={speak`Answers that tell a record`}
          values={finds}
          none={speak`nothing: always a new one`}
          joined={speak` and `}
          choices={findable(bench.design).map(({ id, label }) => ({ value: id, label }))}
          onChange={(next) =>
            bench.edit((design) => ({ ...design, finds: next.length === 0 ? undefined : next }))
          }
        />
      )}`}
      {finds.length > 0 && <span className="quiet">{speak`which is then changed, by whoever may`}</span>}
    </Sentence>
  );
}

/** What one of its records is called: the heading of a sheet. */
function RecordWord({ bench }: { bench: Workbench }) {
  const { record = '', table } = bench.design;
  return (
    <Sentence>
      {speakIn`One of its records is called ${(
        <Word
          label={speak`What one record is called`}
          value={record}
          placeholder={speak`as the form`}
          onChange={(word) =>
            bench.edit((design) => ({ ...design, record: word.trim() === '' ? undefined : word }))
          }
        />
      )}`}
      {record !== '' && (
        <span className="quiet">{speak`so a sheet is headed “${newRecordTitle(record)}”, or “${record} ${table.prefix}-…” once it is there`}</span>
      )}
    </Sentence>
  );
}

/** What is said after sending, and where it goes on. */
function AfterSending({ bench }: { bench: Workbench }) {
  const { after } = bench.design;
  const set = (part: Partial<NonNullable<FormDesign['after']>>) =>
    bench.edit((design) => {
      const next = { message: '', next: 'submission' as const, ...design.after, ...part };
      return { ...design, after: next.message === '' && next.next === 'submission' ? undefined : next };
    });
  return (
    <Sentence>{speakIn`After sending it says ${(
      <Word
        label={speak`What is said after sending`}
        value={after?.message ?? ''}
        placeholder={speak`under which number it was sent`}
        onChange={(message) => set({ message })}
      />
    )} and goes on to ${(
      <Select
        label={speak`Where it goes on after sending`}
        value={after?.next ?? 'submission'}
        choices={[
          { value: 'submission', label: speak`what was sent, with its path` },
          { value: 'another', label: speak`another sheet` },
        ]}
        onChange={(next) => set({ next: next === 'another' ? 'another' : 'submission' })}
      />
    )}`}</Sentence>
  );
}
