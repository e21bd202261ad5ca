import { counted, digits } from '../../core/wording/numbers';
import { CircleCheck, CircleX } from '../kit/icons';
import type { ColumnImpact, Misfit } from '../../core/table/table-change';
import { issueSentence } from '../../core/wording/issue-sentence';
import { issue as issueOf } from '../../core/kernel/issue';
import { type TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const records = (n: number): string => counted(n, 'record');

/** The values of a column that do not fit what it is to become, and what is made of them. */
export function Values({ design, column }: { design: TableDesign; column: ColumnImpact }) {
  const mends = design.redesign.mends[column.column] ?? {};
  const mended = Object.keys(mends)
    .filter((text) => !column.misfits.some((one) => one.text === text))
    .map((text): Misfit => ({ text, rows: 0, code: 'required', example: '' }));
  const blankable = column.misfits.filter(({ text }) => text !== '' && mends[text] === undefined);
  const leaveAll = () =>
    design.edit((all) => ({
      ...all,
      mends: {
        ...all.mends,
        [column.column]: { ...mends, ...Object.fromEntries(blankable.map(({ text }) => [text, ''])) },
      },
    }));
  return (
    <>
      <p className="quiet">
        {column.filled > 0 &&
          speak`${records(column.filled)} ${column.filled === 1 ? speak`holds` : speak`hold`} something in it. `}
        {column.misfitRows === 0
          ? speak`All of them fit.`
          : speak`${records(column.misfitRows)} ${column.misfitRows === 1 ? speak`does` : speak`do`} not fit:`}
        {column.lookedAt !== null &&
          speak` Of its different values, the ${digits(column.lookedAt)} most frequent were looked at; the change looks at all.`}
      </p>
      {column.misfits.length + mended.length > 0 && (
        <div
          className="mt-1.5 max-h-96 overflow-auto"
          tabIndex={0}
          role="region"
          aria-label={speak`Values of ${design.table.columns.find(({ id }) => id === column.column)?.label ?? ''} to fix`}
        >
          <table className="grid-table rows-table">
            <thead>
              <tr>
                <th>{speak`It holds`}</th>
                <th>{speak`In`}</th>
                <th>{speak`Take instead`}</th>
              </tr>
            </thead>
            <tbody>
              {[...column.misfits, ...mended].map((one) => (
                <Mend
                  key={one.text}
                  design={design}
                  column={column.column}
                  misfit={one}
                  mend={mends[one.text]}
                />
              ))}
            </tbody>
          </table>
          {blankable.length > 1 && (
            <button
              type="button"
              className="button-plain mt-1 text-[13px]"
              onClick={leaveAll}
            >{speak`Leave all ${digits(blankable.length)} of these empty`}</button>
          )}
          {column.misfitValues > column.misfits.length && (
            <p className="quiet mt-1">{speak`and ${digits(column.misfitValues - column.misfits.length)} more different values`}</p>
          )}
        </div>
      )}
    </>
  );
}

function Mend({
  design,
  column,
  misfit,
  mend,
}: {
  design: TableDesign;
  column: string;
  misfit: Misfit;
  mend: string | undefined;
}) {
  const set = (text: string | null) =>
    design.edit((all) => {
      const { [misfit.text]: before, ...others } = all.mends[column] ?? {};
      return {
        ...all,
        mends: { ...all.mends, [column]: text === null ? others : { ...others, [misfit.text]: text } },
      };
    });
  return (
    <tr>
      <td data-label={speak`It holds`}>
        <span className="break-words">
          {misfit.text === '' ? (
            <span className="text-slate-600">{speak`nothing`}</span>
          ) : (
            <span className="font-mono text-[13px]">{misfit.text}</span>
          )}
          {misfit.rows > 0 && (
            <span className="trouble mt-0">
              <CircleX size={13} aria-hidden className="mt-0.5 shrink-0" />
              {issueSentence(issueOf(misfit.code, [], { label: speak`this` }))}
            </span>
          )}
        </span>
      </td>
      <td data-label={speak`In`} className="tabular text-[13px] whitespace-nowrap">
        {misfit.rows > 0 ? (
          <span>
            {records(misfit.rows)}
            {misfit.example !== '' && (
              <span className="quiet block">
                {misfit.rows > 1 && speak`one is `}
                <span className="font-mono">{misfit.example}</span>
              </span>
            )}
          </span>
        ) : (
          <span className="inline-flex items-center gap-1 text-lichen-deep">
            <CircleCheck size={13} aria-hidden />
            {mend === '' ? speak`left empty` : speak`fixed`}
          </span>
        )}
      </td>
      <td data-label={speak`Take instead`}>
        <span className="flex items-center gap-2">
          <input
            aria-label={speak`Instead of ${misfit.text || speak`nothing`}`}
            className="box py-1 text-[14px]"
            defaultValue={mend ?? ''}
            placeholder={misfit.text === '' ? speak`what they get` : mend === '' ? '' : speak`what is meant`}
            onBlur={(event) => {
              if (event.target.value !== (mend ?? '')) set(event.target.value);
            }}
            onKeyDown={(event) => {
              if (event.key === 'Enter') event.currentTarget.blur();
            }}
          />
          {misfit.text !== '' && mend === undefined && (
            <button
              type="button"
              className="button-plain text-[13px] whitespace-nowrap"
              onClick={() => set('')}
            >{speak`Leave empty`}</button>
          )}
          {mend !== undefined && (
            <button
              type="button"
              className="button-plain text-[13px]"
              onClick={() => set(null)}
            >{speak`Undo`}</button>
          )}
        </span>
      </td>
    </tr>
  );
}

export function SharedValues({ rows, values }: { rows: number; values: ColumnImpact['repeated'] }) {
  if (rows === 0) return <p className="quiet">{speak`No two records share it now.`}</p>;
  return (
    <>
      <p className="trouble">{speak`${records(rows)} share theirs with another. Correct them first:`}</p>
      <ul className="list-disc pl-5 text-[14px]">
        {values.slice(0, 12).map(({ text, rows: times }) => (
          <li
            key={text}
          >{speakIn`${(<span className="font-mono text-[13px]">{text}</span>)} in ${records(times)}`}</li>
        ))}
      </ul>
    </>
  );
}
