import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { OneRecordData, RecordsData } from '../../contract/answers-from-server';
import { pickedText, type Picked } from '../../core/check/pick-text';
import type { Column } from '../../core/table/model';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { Toasts } from '../kit/Toasts';
import { FilterLine } from './FilterLine';
import { Grid } from './Grid';
import { LinkedStrip } from './LinkedStrip';
import { LookOver } from './LookOver';
import { RecordsMargin } from './RecordsMargin';
import { useSaveKey } from './use-save-key';
import { recordEdits } from './record-edits';
import { Find, RecordsHead } from './RecordsHead';
import { StagedBar } from './StagedBar';
import { useGrid } from './use-grid';
import { addressOf, queryOf, useRecords, type Query } from './use-records';
import { useStaged } from './use-staged';

interface Props {
  readonly initial: RecordsData;
  readonly initialRecord: OneRecordData | null;
  readonly startRecord: string | null;
}

export default function RecordsView(props: Props) {
  return (
    <Root>
      <Records {...props} />
      <Toasts />
    </Root>
  );
}

function Records({ initial, initialRecord, startRecord }: Props) {
  const [query, setQuery] = useState<Query>(() => queryOf(initial));
  const [record, setRecord] = useState(startRecord);
  const records = useRecords(initial.table.key, query, initial);
  const { refresh } = records;
  const data = records.first ?? initial;
  const { table } = data;
  useEffect(
    () => history.replaceState(null, '', `?${addressOf(query)}${record === null ? '' : `&record=${record}`}`),
    [query, record],
  );
  const [isLookedOver, setLookedOver] = useState(false);
  const [isNarrowing, setNarrowing] = useState(startRecord === null);
  const look = useCallback(
    (id: string) => {
      setRecord(id);
      setNarrowing(false);
    },
    [setRecord],
  );
  const one = useQuery({
    queryKey: ['record', table.key, record],
    queryFn: () => fetched<OneRecordData>(`/api/tables/${table.key}/records/${record}`),
    enabled: record !== null,
    ...(initialRecord !== null && record === startRecord && { initialData: initialRecord }),
  });
  const queries = useQueryClient();
  const all = useCallback(() => {
    refresh();
    // Records that were looked at before, and what was counted, are read anew as well when they are looked at next.
    void queries.invalidateQueries({ queryKey: ['record', table.key] });
    void queries.invalidateQueries({ queryKey: ['facets', table.key] });
  }, [refresh, queries, table.key]);
  useLive(topicsOf(data), all);
  const edits = useStaged(data, all);
  const targetKey = useCallback(
    (column: Column) => data.targets[column.target ?? ''] ?? null,
    [data.targets],
  );
  const fresh = useMemo(() => ({ table: table.id, parent: null, given: {} }), [table.id]);
  const hand = useGrid({
    table,
    columns: table.columns,
    may: data.may,
    fresh,
    hasBlank: data.may.add && table.parent === null && query.find === '' && query.where === '',
    rows: records.rows,
    isWhole: records.isWhole,
    edits,
    targetKey,
    onRecord: look,
  });

  const save = useCallback(async () => {
    if ((await edits.save()) || edits.staged.length === 0) setLookedOver(false);
  }, [edits]);
  useSaveKey(save);
  const { meanwhile } = edits;
  useEffect(() => {
    if (meanwhile.size > 0) setLookedOver(true);
  }, [meanwhile]);
  const toTrouble = () => {
    const [first] = edits.troubles;
    if (first === undefined) return;
    setLookedOver(!hand.lines.some(({ id }) => id === first.id));
    hand.pick({ row: first.id, column: first.column ?? table.columns[0]?.id ?? '' }, false);
  };
  const sortBy = (sort: string) =>
    setQuery({ ...query, sort, order: query.sort === sort && query.order === 'up' ? 'down' : 'up' });
  const { picked, narrow } = usePicked(initial, data, query.where, setQuery);
  const find = useCallback((words: string) => setQuery((now) => ({ ...now, find: words })), [setQuery]);

  return (
    <>
      <RecordsHead data={data} onAdd={hand.addOne} />
      <div className="flex flex-wrap items-center gap-x-4">
        <div className="min-w-64 flex-1">
          <Find find={query.find} onFind={find} />
        </div>
        {records.isOld && (
          <button type="button" className="button-plain mb-2 text-lichen-deep!" onClick={records.showNew}>
            Somebody changed this table meanwhile: show it as it is now
          </button>
        )}
      </div>
      <FilterLine data={data} where={query.where} picked={picked} onPicked={narrow} />
      {records.isError && (
        <p role="alert" className="trouble mb-2">
          The newest rows could not be fetched; what you see may be old. Try again in a moment.
        </p>
      )}
      {data.freshness !== null && (
        <LinkedStrip
          table={table.key}
          freshness={data.freshness}
          mayDesign={data.mayDesign}
          onChanged={all}
        />
      )}
      <div className="sheet-frame records-frame">
        <div className="flex min-w-0 flex-col">
          {isLookedOver ? (
            <>
              <p className="flex items-center justify-between gap-3 border-b border-slate-200 bg-slate-50 px-4 py-2">
                <strong>Look them over</strong>
                <button type="button" className="button" onClick={() => setLookedOver(false)}>
                  Back to the grid
                </button>
              </p>
              <div className="min-h-0 flex-1 lg:overflow-y-auto">
                <LookOver table={table} edits={edits} />
              </div>
            </>
          ) : (
            <>
              {records.rows.length === 0 && <p className="p-5">{emptyWords(data)}</p>}
              {hand.lines.length > 0 && (
                <Grid
                  label={`Records of ${table.label}`}
                  columns={table.columns}
                  hand={hand}
                  query={query}
                  onSort={sortBy}
                  more={records.more}
                  targetKey={targetKey}
                />
              )}
            </>
          )}
          <StagedBar
            edits={edits}
            isLookedOver={isLookedOver}
            onLookOver={() => setLookedOver(true)}
            onSave={() => void save()}
            onTrouble={toTrouble}
          />
        </div>
        <RecordsMargin
          isNarrowing={isNarrowing}
          onNarrowing={setNarrowing}
          facets={{ data, query, picked, onPicked: narrow }}
          record={{
            table,
            data: one.data ?? null,
            wanted: record !== null,
            failed: one.isError,
            targets: data.targets,
            page: (number) => `/tables/${table.key}/${encodeURIComponent(number)}?${addressOf(query)}`,
            ...recordEdits(data, edits),
          }}
        />
      </div>
    </>
  );
}

const emptyWords = ({ find, where, freshness, may }: RecordsData): string =>
  find !== '' || where !== ''
    ? 'Nothing found; try another word, or fewer conditions.'
    : freshness === null
      ? `No record yet. They appear here by themselves as forms are approved${may.add ? ', or type one in the line below' : ''}.`
      : 'No record yet. They appear here by themselves once they are copied.';

/** What is listened to: the table, and those whose records are shown with its own. */
const topicsOf = ({ table, related }: RecordsData): string[] => [
  ...new Set([table.id, ...related.map((one) => one.table.id)].map((id) => `table:${id}`)),
];

/** The filter as it was picked: what was just picked is known here before the server has read it back. */
function usePicked(
  initial: RecordsData,
  data: RecordsData,
  where: string,
  setQuery: (change: (now: Query) => Query) => void,
) {
  const [chosen, setChosen] = useState({ where: initial.where, picked: initial.picked });
  const narrow = useCallback(
    (next: Picked) => {
      const text = pickedText(next);
      setChosen({ where: text, picked: next });
      setQuery((now) => ({ ...now, where: text }));
    },
    [setQuery],
  );
  const picked = chosen.where === where ? chosen.picked : data.where === where ? data.picked : null;
  return { picked, narrow };
}
