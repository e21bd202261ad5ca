import { ChangeAll } from './ChangeAll';
import { FilterLine } from '../kit/FilterLine';
import { JumpTo } from './JumpTo';
import { Find } from './RecordsHead';
import type { useBulk } from './use-bulk';
import type { useTable } from './use-table';
import { ViewMenu } from './ViewMenu';
import { speak } from '../../core/wording/speak';

/** Records from which on one goes to a value rather than scrolls. */
const MANY = 100;

interface Props {
  readonly use: ReturnType<typeof useTable>;
  readonly bulk: ReturnType<typeof useBulk>;
}

/** Which records are shown: found, narrowed down, gone to, changed together, or as a view keeps it. */
export function WhichRecords({ use, bulk }: Props) {
  const { work, query, setQuery, asked, data, records, waits, find, where, picked, at, key } = use;
  const isGrid = query.layout === 'grid' && query.group === '';
  return (
    <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
      <Find find={find} onFind={use.findWords} />
      {!waits && (
        <FilterLine
          filterables={work.filterables}
          where={where}
          picked={picked}
          onPicked={use.narrow}
          onWritten={use.written}
        />
      )}
      {!waits && isGrid && data !== null && (data.about || data.total > MANY || at !== null) && (
        <JumpTo table={key} places={work.places} query={asked} at={at} onJump={use.jumpTo} />
      )}
      {work.may.change && data !== null && (find !== '' || where !== '') && data.total > 0 && (
        <ChangeAll
          work={work}
          asked={asked}
          total={data.total}
          about={data.about}
          edits={use.edits}
          targetKey={use.targetKey}
          onBulk={bulk.begin}
        />
      )}
      {records.isOld && (
        <button
          type="button"
          className="button-plain text-lichen-deep!"
          onClick={records.showNew}
        >{speak`Somebody changed this table meanwhile: show it as it is now`}</button>
      )}
      <ViewMenu
        work={work}
        views={use.views}
        onViews={use.setViews}
        query={query}
        onQuery={setQuery}
        picked={picked}
      />
    </div>
  );
}
