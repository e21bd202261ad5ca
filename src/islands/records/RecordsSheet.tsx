import { useCallback, useMemo, useState } from 'react';
import type { TableAtWork } from '../../contract/answers-from-server';
import type { TotalKind } from '../../core/record/groups';
import type { Sort } from '../../core/record/places';
import type { Column } from '../../core/table/model';
import type { Arrangement } from './arrangement';
import { Calendar } from './Calendar';
import { Cards } from './Cards';
import { Grid } from './Grid';
import { GroupList } from './GroupList';
import type { GridLine } from './grid-lines';
import { RelatedPanel } from './RelatedPanel';
import type { GridHand } from './use-grid';
import type { useQuery } from './use-query';
import type { Query, useRecords } from './use-records';
import type { StagedEdits } from './use-staged';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly work: TableAtWork;
  readonly shownAs: ReturnType<typeof useQuery>;
  readonly asked: Query;
  readonly sorts: readonly Sort[];
  readonly total: TotalKind;
  readonly records: ReturnType<typeof useRecords>;
  readonly arrangement: Arrangement;
  readonly hand: GridHand;
  readonly edits: StagedEdits;
  readonly changes: number;
  readonly inHand: string | null;
  readonly onRecord: (id: string) => void;
  readonly targetKey: (column: Column) => string | null;
  readonly page: (number: string) => string;
}

/** The records in the layout that was chosen. */
export function RecordsSheet(props: Props) {
  const { work, shownAs, asked, records, arrangement, hand, inHand, onRecord, changes, page } = props;
  const { table } = work;
  const { query, setQuery, look, keepLook, sortBy, shown } = shownAs;
  const fresh = useMemo(() => ({ table: table.id, parent: null, given: {} }), [table.id]);
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const toggle = useCallback(
    (id: string) =>
      setOpened((now) =>
        now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id]),
      ),
    [],
  );
  const day = work.places.find(({ text }) => text === query.day);
  if (query.layout === 'calendar' && day !== undefined)
    return (
      <Calendar table={table} query={asked} day={day} inHand={inHand} onRecord={onRecord} changes={changes} />
    );
  if (query.layout === 'cards')
    return (
      <Cards
        table={table}
        rows={records.rows}
        shown={shown}
        inHand={inHand}
        onRecord={onRecord}
        page={page}
        isWhole={records.isWhole}
        more={records.more}
      />
    );
  if (query.group !== '')
    return (
      <div className="min-h-0 flex-1 overflow-y-auto max-lg:overflow-visible">
        <GroupList
          table={table}
          may={work.may}
          arrangement={arrangement}
          fresh={fresh}
          edits={props.edits}
          targets={work.targets}
          changes={changes}
          onRecord={onRecord}
          find={query.find}
          where={query.where}
          columns={query.columns}
          of={null}
          sort={query.sort}
          onSort={(sort) => setQuery((now) => ({ ...now, sort }))}
          by={query.group
            .split(',')
            .flatMap((text) => work.places.find((place) => place.text === text) ?? [])}
          total={props.total}
          page={page}
        />
      </div>
    );
  return (
    <>
      {records.rows.length === 0 && records.first !== null && (
        <p className="p-5">{emptyWords(work, query)}</p>
      )}
      {hand.lines.length > 0 && (
        <Grid
          label={speak`Records of ${table.label}`}
          arrangement={arrangement}
          hand={hand}
          sorts={props.sorts}
          onSort={sortBy}
          onWidth={(by, width) => keepLook({ widths: { ...look.widths, [by]: width } })}
          more={records.more}
          targetKey={props.targetKey}
          {...(work.related.length > 0 && {
            under: {
              opened,
              toggle,
              panel: ({ id, record }: GridLine) => (
                <RelatedPanel
                  work={work}
                  record={{
                    id,
                    name: record?.name ?? '',
                    row: records.rows.find((row) => row.id === id) ?? null,
                  }}
                  edits={props.edits}
                  changes={changes}
                />
              ),
            },
          })}
        />
      )}
    </>
  );
}

const emptyWords = ({ table, may }: TableAtWork, { find, where }: Pick<Query, 'find' | 'where'>): string =>
  find !== '' || where !== ''
    ? speak`Nothing found; try another word, or fewer conditions.`
    : table.linked === null
      ? speak`No record yet. They appear here by themselves as forms are approved${may.add ? speak`, or type one in the line below` : ''}.`
      : speak`No record yet. They appear here by themselves once they are copied.`;
