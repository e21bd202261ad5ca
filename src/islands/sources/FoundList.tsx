import { TriangleAlert } from '../kit/icons';
import type { SourceData, SourceLook } from '../../contract/sources';
import { columnWords } from '../../core/wording/change-sentence';
import { leftBehindSentence, linkedRights, notLinkedSentence } from '../../core/wording/source-sentence';
import { LinkButton, type LinkingNow } from './LinkButton';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly source: SourceData;
  readonly look: Extract<SourceLook, { t: 'list' }>;
  readonly linking: LinkingNow;
  readonly everyPick: React.ReactNode;
}

/** The list at an address as the table it would be, with its first entries. */
export function FoundList({ source, look: { entries, plan }, linking, everyPick }: Props) {
  const [here] = source.linked;
  return (
    <div className="sheet-frame">
      <section aria-label={speak`The list`} className="min-w-0 p-5">
        <h2 className="mb-1 text-[19px]">{speak`${entries} entries`}</h2>
        {plan === null ? (
          <p className="flex gap-1.5">
            <TriangleAlert size={16} aria-hidden className="mt-1 shrink-0 text-ochre" />
            {notLinkedSentence()['no-key']}.
          </p>
        ) : (
          <>
            <p className="quiet mb-3">{speak`Known by ${plan.key}; the first of them, as they came.`}</p>
            <div
              className="relative overflow-x-auto rounded-md border border-slate-200"
              tabIndex={0}
              role="region"
              aria-label={speak`First entries`}
            >
              <table className="grid-table">
                <thead className="bg-slate-50">
                  <tr>
                    {plan.table.columns.map((column) => (
                      <th key={column.id} className="whitespace-nowrap">
                        {column.label}
                        <span className="block font-normal">
                          {columnWords(column)}
                          {column.personal !== null && (
                            <span className="text-plum"> {speak`· personal`}</span>
                          )}
                        </span>
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {plan.rows.map((row, i) => (
                    <tr key={i}>
                      {row.map((text, j) => (
                        <td key={j}>
                          <span className="block max-w-56 truncate" title={text}>
                            {text}
                          </span>
                        </td>
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </>
        )}
      </section>
      <aside id="margin" className="margin-pane" aria-label={speak`What linking it means`}>
        <div className="margin-part first">
          {here !== undefined ? (
            <p className="text-[14px]">{speakIn`It is linked as ${(
              <a href={`/tables/${here.key}`} className="font-semibold text-lichen-deep">
                {here.label}
              </a>
            )}. Open the table to see how fresh it is, to refresh it, or to end the link.`}</p>
          ) : (
            plan !== null && (
              <LinkButton linking={linking} tables={[]} words={speak`Link this list`}>
                <p className="text-[14px]">{speakIn`It is copied now, and refreshed ${everyPick}`}</p>
              </LinkButton>
            )
          )}
        </div>
        <p className="margin-part text-[14px]">
          {linkedRights({ source: source.label, adds: false, changes: false })}.
        </p>
        {plan !== null && plan.left.length > 0 && (
          <div className="margin-part">
            <h2 className="margin-title">
              <TriangleAlert size={16} aria-hidden className="text-ochre" />
              {speak`Not carried over`}
            </h2>
            <ul className="grid gap-1 text-[14px]">
              {plan.left.map((one, i) => (
                <li key={i}>{leftBehindSentence(one)}.</li>
              ))}
            </ul>
          </div>
        )}
      </aside>
    </div>
  );
}
