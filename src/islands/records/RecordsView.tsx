import { readSorts } from '../../core/record/places';
import { Root } from '../kit/Root';
import { Toasts } from '../kit/Toasts';
import { AskFirst } from './AskFirst';
import { markedTotal } from './block-edits';
import { ChangeAll } from './ChangeAll';
import { ColumnsButton } from './ColumnsButton';
import { FilterLine } from './FilterLine';
import { LayoutButton } from './LayoutButton';
import { LinkedStrip } from './LinkedStrip';
import { LookOver } from './LookOver';
import { recordEdits } from './record-edits';
import { RecordsMargin } from './RecordsMargin';
import { Find, RecordsHead } from './RecordsHead';
import { RecordsSheet } from './RecordsSheet';
import { StagedBar } from './StagedBar';
import { addressOf } from './use-records';
import { useTable, type OpenedTable } from './use-table';
import { ViewMenu } from './ViewMenu';

export default function RecordsView(props: OpenedTable) {
  return (
    <Root>
      <Records {...props} />
      <Toasts />
    </Root>
  );
}

function Records(props: OpenedTable) {
  const {
    work,
    table,
    record,
    views,
    setViews,
    waits,
    setWaits,
    total,
    setTotal,
    shownAs,
    query,
    setQuery,
    look,
    shown,
    find,
    where,
    sort,
    asked,
    records,
    data,
    isLookedOver,
    setLookedOver,
    isNarrowing,
    setNarrowing,
    changes,
    lookAt,
    one,
    all,
    edits,
    targetKey,
    arrangement,
    hand,
    save,
    toTrouble,
    picked,
    narrow,
    written,
    findWords,
    page,
    view,
    key,
  } = useTable(props);
  return (
    <>
      <RecordsHead work={work} data={waits ? null : data} shown={addressOf(asked)} onAdd={hand.addOne}>
        <LayoutButton
          work={work}
          query={query}
          onQuery={(change) => setQuery((now) => ({ ...now, ...change }))}
          total={total}
          onTotal={setTotal}
        />
        <ColumnsButton
          places={work.places}
          shown={shown}
          pinned={look.pinned}
          onShown={shownAs.showColumns}
          onPinned={(pinned) => shownAs.keepLook({ pinned })}
        />
      </RecordsHead>
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Find find={find} onFind={findWords} />
        {!waits && (
          <FilterLine
            filterables={work.filterables}
            where={where}
            picked={picked}
            onPicked={narrow}
            onWritten={written}
          />
        )}
        {work.may.change && data !== null && (find !== '' || where !== '') && data.total > 0 && (
          <ChangeAll work={work} asked={asked} total={data.total} edits={edits} targetKey={targetKey} />
        )}
        {records.isOld && (
          <button type="button" className="button-plain text-lichen-deep!" onClick={records.showNew}>
            Somebody changed this table meanwhile: show it as it is now
          </button>
        )}
        <ViewMenu
          work={work}
          views={views}
          onViews={setViews}
          query={query}
          onQuery={setQuery}
          picked={picked}
        />
      </div>
      {records.isError && (
        <p role="alert" className="trouble mb-2">
          The newest rows could not be fetched; what you see may be old. Try again in a moment.
        </p>
      )}
      {data !== null && data.freshness !== null && (
        <LinkedStrip table={key} freshness={data.freshness} mayDesign={work.mayDesign} onChanged={all} />
      )}
      <div className="sheet-frame records-frame">
        <div className="flex min-w-0 flex-col">
          {isLookedOver ? (
            <div className="min-h-0 flex-1 lg:overflow-y-auto">
              <LookOver
                table={table}
                edits={edits}
                back="Back to the records"
                onBack={() => setLookedOver(false)}
              />
            </div>
          ) : waits && view !== undefined ? (
            <AskFirst
              label={view.label}
              filterables={work.filterables}
              asks={view.design.asks}
              picked={picked}
              onDone={(text) => {
                setQuery((now) => ({ ...now, where: text }));
                setWaits(false);
              }}
            />
          ) : (
            <RecordsSheet
              work={work}
              shownAs={shownAs}
              asked={asked}
              sorts={readSorts(sort)}
              total={total}
              records={records}
              arrangement={arrangement}
              hand={hand}
              edits={edits}
              changes={changes}
              inHand={record}
              onRecord={lookAt}
              targetKey={targetKey}
              page={page}
            />
          )}
          <StagedBar
            edits={edits}
            isLookedOver={isLookedOver}
            total={markedTotal(hand.lines, arrangement.columns, hand.block)}
            onLookOver={() => setLookedOver(true)}
            onSave={() => void save()}
            onTrouble={toTrouble}
          />
        </div>
        <RecordsMargin
          isNarrowing={isNarrowing && !waits}
          onNarrowing={setNarrowing}
          facets={{ table, query, picked, onPicked: narrow }}
          record={{
            table,
            data: one.data ?? null,
            wanted: record !== null,
            failed: one.isError,
            targets: work.targets,
            page,
            ...recordEdits(work, edits),
          }}
        />
      </div>
    </>
  );
}
