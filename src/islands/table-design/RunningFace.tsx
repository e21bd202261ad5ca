import { digits } from '../../core/wording/numbers';
import { changeSentence } from '../../core/wording/change-sentence';
import type { TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';

/** A change that a job carries out: how far it has come. */
export function RunningFace({ design: { changes, progress } }: { design: TableDesign }) {
  const [rows, of] = [progress?.rows ?? 0, progress?.of ?? 0];
  return (
    <div className="sheet-frame">
      <section aria-label={speak`What changes`}>
        <ol>
          {changes.map((change, i) => (
            <li key={i} className="line">
              <span className="gutter">{i + 1}</span>
              <p>{changeSentence(change, false)}</p>
            </li>
          ))}
        </ol>
      </section>
      <aside id="margin" className="margin-pane" aria-label={speak`How far it has come`}>
        <section className="margin-part first">
          <h2 className="margin-title">{speak`The table is being changed`}</h2>
          <progress
            className="mb-1 h-2 w-full"
            max={Math.max(of, 1)}
            value={rows}
            aria-label={speak`Records filled`}
          />
          <p role="status" className="text-[14px]">
            {rows < of
              ? speak`${digits(rows)} of ${digits(of)} records are filled`
              : speak`All records are filled; the last step is taken now`}
          </p>
          <p className="quiet mt-1">{speak`Everybody goes on working with the table as it was. You may leave this page; if anything stands in the way, the table stays as it was and you are told here.`}</p>
        </section>
      </aside>
    </div>
  );
}
