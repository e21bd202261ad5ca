import { useMemo, useState } from 'react';
import { tablesOf } from '../../core/storage/tables-of';
import { FurtherMargin } from './FurtherMargin';
import { FurtherWrites } from './FurtherWrites';
import { KeptMargin } from './KeptMargin';
import { PlanMargin } from './PlanMargin';
import { StoreTable } from './StoreTable';
import type { FaceProps } from './face-props';
import { speak } from '../../core/wording/speak';

/** Which answer goes to which table and column, what is written besides, and what a release would change. */
export function StoreFace({ bench }: FaceProps) {
  const wanted = useMemo(() => tablesOf(bench.design), [bench.design]);
  const [inHand, setInHand] = useState<string | null>(null);
  const write = bench.design.further?.find(({ id }) => id === inHand) ?? null;
  return (
    <div className="sheet-frame">
      <div>
        {wanted.map((table) => (
          <StoreTable key={table.id} bench={bench} table={table} inHand={inHand} onPick={setInHand} />
        ))}
        <FurtherWrites bench={bench} inHand={inHand} onPick={setInHand} />
      </div>
      <aside
        id="margin"
        className="margin-pane"
        aria-label={speak`What is in hand, and what a release would change`}
      >
        {write !== null && <FurtherMargin key={write.id} bench={bench} write={write} />}
        {write === null && inHand !== null && (
          <KeptMargin key={inHand} bench={bench} id={inHand} onPick={setInHand} />
        )}
        <PlanMargin bench={bench} wanted={wanted} isFirst={inHand === null} />
      </aside>
    </div>
  );
}
