import { Fragment } from 'react';
import { cellKey } from '../../core/approval/changes';
import { shown, type RowState } from '../../core/form/cells';
import { pickedColumn, type FieldQuestion, type RowsQuestion } from '../../core/form/design';
import { rowLetter } from '../../core/form/numbered-lines';
import { CorrectableAnswer } from './CorrectableAnswer';
import { headingOf, isNumeric } from './headings';
import type { ShownSheet } from './reviewing';
import { innerShown } from './sheet-model';
import { TotalsFoot } from './TotalsFoot';
import { speak } from '../../core/wording/speak';

const numeric = (question: FieldQuestion): string => (isNumeric(question) ? 'tabular text-right!' : '');

interface RowsShownProps {
  readonly group: RowsQuestion;
  readonly review: ShownSheet;
  /** The row these stand in, and how it is called. */
  readonly of?: { readonly row: RowState; readonly letter: string };
}

export function RowsShown({ group, review, of }: RowsShownProps) {
  const { sheet, before, changes, data } = review;
  const picks = pickedColumn(group);
  const letterOf = (i: number): string => (of === undefined ? rowLetter(i) : `${of.letter}.${i + 1}`);
  const inner = innerShown(data, group);
  if (picks !== null) return <PicksShown group={group} column={picks} review={review} />;
  return (
    <div
      className="relative overflow-x-auto"
      tabIndex={0}
      role="region"
      aria-label={of === undefined ? group.label : speak`${group.label}, row ${of.letter}`}
    >
      <table className="grid-table min-w-[480px]">
        <thead>
          <tr>
            <th className="w-8">
              <span className="sr-only">{speak`Row`}</span>
            </th>
            {group.columns.map((column) => (
              <th key={column.id} className={numeric(column)}>
                {headingOf(column)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sheet.filledRows(group.id, of?.row.id).map((row, i) => {
            const added = changes?.added.has(row.id) ?? false;
            return (
              <Fragment key={row.id}>
                <tr className={added ? 'bg-marker-soft' : ''}>
                  <td className="font-mono text-[13px] text-slate-600">
                    {letterOf(i)}
                    {added && <span className="sr-only"> {speak`(new row)`}</span>}
                  </td>
                  {group.columns.map((column) => {
                    const old = before?.value([group.id, row.id, column.id]) ?? null;
                    const value = row.values.get(column.id) ?? null;
                    const changed = before !== null && !added && shown(column, old) !== shown(column, value);
                    return (
                      <td
                        key={column.id}
                        className={numeric(column)}
                        data-cell={cellKey(group.id, row.id, column.id)}
                      >
                        <CorrectableAnswer
                          question={column}
                          place={[group.id, row.id, column.id]}
                          review={review}
                          value={value}
                          before={changed ? old : undefined}
                          name={speak`${column.label}, row ${letterOf(i)}`}
                        />
                      </td>
                    );
                  })}
                </tr>
                {inner.map((one) => (
                  <InnerShown key={one.id} group={one} review={review} of={{ row, letter: letterOf(i) }} />
                ))}
              </Fragment>
            );
          })}
          {(changes?.removed.get(group.id) ?? [])
            .filter((row) => row.of === of?.row.id)
            .map((row) => (
              <tr key={row.id} className="text-slate-600">
                <td>
                  <span className="sr-only">{speak`removed row`}</span>×
                </td>
                {group.columns.map((column) => (
                  <td key={column.id} className={numeric(column)}>
                    <s>{shown(column, before?.value([group.id, row.id, column.id]) ?? null)}</s>
                  </td>
                ))}
              </tr>
            ))}
        </tbody>
        <TotalsFoot group={group} sheet={sheet} of={of?.row} />
      </table>
    </div>
  );
}

/** What stands in a row, right below it. Where nothing does, nothing is said. */
function InnerShown({ group, review, of }: Required<RowsShownProps>) {
  const { sheet, changes } = review;
  const gone = (changes?.removed.get(group.id) ?? []).some((row) => row.of === of.row.id);
  if (!gone && sheet.filledRows(group.id, of.row.id).length === 0) return null;
  const outer = sheet.form.groups.get(of.row.group);
  return (
    <tr>
      <td aria-hidden />
      <td colSpan={outer?.columns.length ?? 1}>
        <p className="text-[13px] font-semibold">{group.label}</p>
        <RowsShown group={group} review={review} of={of} />
      </td>
    </tr>
  );
}

/** What was picked, as words; what came and what went stands out. */
function PicksShown({
  group,
  column,
  review,
}: {
  group: RowsQuestion;
  column: FieldQuestion;
  review: ShownSheet;
}) {
  const { sheet, before, changes } = review;
  const rows = sheet.filledRows(group.id);
  const titles = rows.map((row) => ({
    id: row.id,
    title: shown(column, row.values.get(column.id) ?? null),
    isNew: changes?.added.has(row.id) ?? false,
  }));
  const gone = (changes?.removed.get(group.id) ?? []).map(({ id }) => ({
    id,
    title: shown(column, before?.value([group.id, id, column.id]) ?? null),
  }));
  return (
    <p className="flex flex-wrap gap-x-3 gap-y-1 break-words">
      {titles.length + gone.length === 0 && '—'}
      {titles.map(({ id, title, isNew }) => (
        <span key={id} className="font-semibold" data-cell={cellKey(group.id, id, column.id)}>
          {isNew ? (
            <mark className="marked text-ink">
              <span className="sr-only">{speak`added`} </span>
              {title}
            </mark>
          ) : (
            title
          )}
        </span>
      ))}
      {gone.map(({ id, title }) => (
        <s key={id} className="text-slate-600">
          <span className="sr-only">{speak`taken out`} </span>
          {title}
        </s>
      ))}
    </p>
  );
}
