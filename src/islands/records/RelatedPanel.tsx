import { useState } from 'react';
import type { TableAtWork } from '../../contract/answers-from-server';
import { referringBy } from './record-text';
import { RelatedGrid } from './RelatedGrid';
import type { StagedEdits } from './use-staged';

interface Props {
  readonly work: TableAtWork;
  readonly record: { readonly id: string; readonly name: string };
  readonly edits: StagedEdits;
  readonly changes: number;
}

/** Under a record of the grid, what belongs and refers to it: one table at a time. */
export function RelatedPanel({ work, record, edits, changes }: Props) {
  const [at, setAt] = useState(0);
  const related = work.related[at] ?? work.related[0];
  if (related === undefined) return null;
  return (
    <>
      <div
        className="flex flex-wrap gap-1 px-4 pt-2"
        role="group"
        aria-label={`What is shown under ${record.name}`}
      >
        {work.related.length > 1 &&
          work.related.map((one, i) => {
            const by = referringBy(one, work.table);
            return (
              <button
                key={`${one.table.id} ${one.column}`}
                type="button"
                className="margin-face"
                aria-pressed={i === at}
                onClick={() => setAt(i)}
              >
                {one.table.label}
                {by !== null && ` by ${by}`}
              </button>
            );
          })}
      </div>
      <RelatedGrid
        key={`${related.table.id} ${related.column}`}
        work={work}
        related={related}
        record={record}
        edits={edits}
        changes={changes}
      />
    </>
  );
}
