import { readSorts } from '../../core/record/places';
import { Root } from '../kit/Root';
import Toasts from '../kit/Toasts';
import { AskFirst } from './AskFirst';
import { markedTotal } from './block-edits';
import { ColumnsButton } from './ColumnsButton';
import { LayoutButton } from './LayoutButton';
import { LinkedStrip } from './LinkedStrip';
import { LookOver } from './LookOver';
import { recordEdits } from './record-edits';
import { RecordsMargin } from './RecordsMargin';
import { RecordsHead } from './RecordsHead';
import { RecordsSheet } from './RecordsSheet';
import { StagedBar } from './StagedBar';
import { addressOf } from './use-records';
import { useTable, type OpenedTable } from './use-table';
import { BulkStrip } from './BulkStrip';
import { useBulk } from './use-bulk';
import { WhichRecords } from './WhichRecords';
import { speak } from '../../core/wording/speak';

export default function RecordsView(props: OpenedTable) {
  return (
    <Root>
      <Records {...props} />
      <Toasts />
    </Root>
  );
}

function Records(props: OpenedTable) {
  const use = useTable(props);
  const {
    work,
    table,
    record,
    waits,
    setWaits,
    total,
    setTotal,
    shownAs,
    query,
    setQuery,
    look,
    shown,
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
    page,
    view,
    key,
  } = use;
  const bulk = useBulk(key, work.may.change);
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
      <WhichRecords use={use} bulk={bulk} />
      <BulkStrip table={table} bulk={bulk} />
      {records.isError && (
        <p
          role="alert"
          className="trouble mb-2"
        >{speak`The newest rows could not be fetched; what you see may be old. Try again in a moment.`}</p>
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
                back={speak`Back to the records`}
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
            forms: work.forms,
            restricted: work.restricted,
            page,
            ...recordEdits(work, edits),
          }}
        />
      </div>
    </>
  );
}
