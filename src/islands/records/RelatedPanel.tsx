import { useState } from 'react';
import type { TableAtWork } from '../../contract/answers-from-server';
import { relatedBy } from './record-text';
import { RelatedGrid, type RelatedTo } from './RelatedGrid';
import type { StagedEdits } from './use-staged';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly work: TableAtWork;
  readonly record: RelatedTo;
  readonly edits: StagedEdits;
  readonly changes: number;
}

/** Under a record of the grid, what is related to it: one table at a time. */
export function RelatedPanel({ work, record, edits, changes }: Props) {
  const [at, setAt] = useState(0);
  const related = work.related[at] ?? work.related[0];
  if (related === undefined) return null;
  return (
    <>
      <div
        className="flex flex-wrap gap-1 px-4 pt-2"
        role="group"
        aria-label={speak`What is shown under ${record.name}`}
      >
        {work.related.length > 1 &&
          work.related.map((one, i) => {
            const by = relatedBy(one, work.table);
            return (
              <button
                key={`${one.table.id} ${one.via}`}
                type="button"
                className="margin-face"
                aria-pressed={i === at}
                onClick={() => setAt(i)}
              >
                {one.table.label}
                {by !== null && ` ${by}`}
              </button>
            );
          })}
      </div>
      <RelatedGrid
        key={`${related.table.id} ${related.via}`}
        work={work}
        related={related}
        record={record}
        edits={edits}
        changes={changes}
      />
    </>
  );
}
