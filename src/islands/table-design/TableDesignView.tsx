import { counted } from '../../core/wording/numbers';
import { ListChecks, Undo2 } from '../kit/icons';
import { useState } from 'react';
import type { TableDesignData } from '../../contract/table-changes';
import { nameTable } from '../../core/table/edit';
import { KeptWords } from '../kit/KeptWords';
import { Root } from '../kit/Root';
import { CheckLines } from './CheckLines';
import { CheckMargin } from './CheckMargin';
import { ColumnLines } from './ColumnLines';
import { ColumnMargin } from './ColumnMargin';
import { PlanFace } from './PlanFace';
import { RunningFace } from './RunningFace';
import { TableMargin } from './TableMargin';
import { useDone, useTableDesign, type TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';

export default function TableDesignView({ initial }: { initial: TableDesignData }) {
  return (
    <Root>
      <Design initial={initial} />
    </Root>
  );
}

function Design({ initial }: { initial: TableDesignData }) {
  const design = useTableDesign(initial);
  const { state, data, changes, issues } = design;
  // What a job did not carry out is looked over again, with the reason.
  const [looking, setLooking] = useState(state === 'refused' || state === 'running');
  useDone(state, data.draft !== null);
  const lookOver = async () => {
    if (await design.keep()) setLooking(true);
  };
  const face =
    state === 'running'
      ? 'running'
      : looking && (changes.length > 0 || issues.length > 0)
        ? 'plan'
        : 'columns';
  return (
    <>
      <Head design={design} face={face} lookOver={() => void lookOver()} />
      {design.isBehind && <Behind design={design} />}
      {face === 'running' && <RunningFace design={design} />}
      {face === 'plan' && <PlanFace design={design} back={() => setLooking(false)} />}
      {face === 'columns' && (
        <div className="sheet-frame">
          <div>
            <ColumnLines design={design} />
            <CheckLines design={design} />
          </div>
          <aside
            id="margin"
            className="margin-pane"
            aria-label={
              design.column !== null
                ? speak`The column in hand`
                : design.check !== null
                  ? speak`The check in hand`
                  : speak`The table`
            }
          >
            {design.column !== null ? (
              <ColumnMargin key={design.column.id} design={design} column={design.column} />
            ) : design.check !== null ? (
              <CheckMargin key={design.check.id} design={design} check={design.check} />
            ) : (
              <TableMargin design={design} />
            )}
          </aside>
        </div>
      )}
    </>
  );
}

function Head({ design, face, lookOver }: { design: TableDesign; face: string; lookOver: () => void }) {
  const { table, data, changes, isNew } = design;
  const count = changes.length;
  return (
    <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-3">
      <div className="min-w-0 flex-1">
        <p className="quiet">
          <a href="/tables" className="crumb">{speak`Tables`}</a>
          {data.table !== null && (
            <>
              {' '}
              ›{' '}
              <a href={`/tables/${data.table.key}`} className="crumb">
                {data.table.label}
              </a>
            </>
          )}
        </p>
        <div className="flex flex-wrap items-center gap-3">
          <h1 className="text-[23px]">
            <input
              aria-label={speak`Name of the table`}
              className="field-sizing-content max-w-full min-w-24 rounded border border-transparent bg-transparent placeholder:text-slate-600 hover:border-slate-300"
              maxLength={200}
              value={table.label}
              placeholder={speak`What is the table called?`}
              disabled={face !== 'columns'}
              onChange={(event) =>
                design.editTable((one) =>
                  nameTable(one, event.target.value, [...design.others.values()], isNew),
                )
              }
            />
          </h1>
          {isNew ? (
            <span className="tag bg-ochre-soft text-ochre">{speak`Not made yet`}</span>
          ) : (
            count > 0 &&
            face !== 'running' && (
              <span className="tag bg-ochre-soft text-ochre">{speak`${counted(count, 'change')} not carried out`}</span>
            )
          )}
        </div>
      </div>
      {face !== 'running' && (
        <div className="flex flex-wrap items-center gap-3">
          <KeptWords keeping={design.keeping} keep={design.keep} />
          <button type="button" className="button" disabled={!design.canUndo} onClick={design.undo}>
            <Undo2 size={15} aria-hidden />
            {speak`Undo`}
          </button>
          {face === 'columns' && (
            <button
              type="button"
              className="button button-dark"
              disabled={count === 0 || (isNew && table.columns.length === 0)}
              onClick={lookOver}
            >
              <ListChecks size={15} aria-hidden />
              {speak`Look ${isNew ? speak`it` : speak`them`} over`}
            </button>
          )}
        </div>
      )}
    </div>
  );
}

/** Somebody was quicker: their change is there already, and this one is drawn on the table before it. */
function Behind({ design }: { design: TableDesign }) {
  const [newest] = design.data.done;
  return (
    <div
      role="alert"
      className="mb-3 flex flex-wrap items-center justify-between gap-3 rounded-md bg-marker-soft px-4 py-2"
    >
      <p>{speak`${newest?.by ?? speak`A release of a form`} changed this table since you began. Yours would be drawn on theirs: what only they changed stays theirs.`}</p>
      <button
        type="button"
        className="button"
        onClick={design.rebase}
      >{speak`Bring my changes onto theirs`}</button>
    </div>
  );
}
