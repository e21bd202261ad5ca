import type { Place, RowState } from '../../core/form/cells';
import type { RowsQuestion } from '../../core/form/design';
import type { Sheet } from '../../core/form/sheet';
import { totalShown } from '../../core/form/totals';

interface Props {
  readonly group: RowsQuestion;
  readonly sheet: Sheet;
  /** The row these stand in. */
  readonly of?: RowState | undefined;
  /** While it is filled: changes are told, and a column for taking rows away stands at the end. */
  readonly live?: boolean;
}

/** What the columns of rows come to, each under its own. */
export function TotalsFoot({ group, sheet, of, live = false }: Props) {
  if (group.totals.length === 0) return null;
  const place = (id: string): Place => (of === undefined ? [id] : [of.group, of.id, id]);
  return (
    <tfoot>
      <tr>
        <td className="border-0!" />
        {group.columns.map((column) => {
          const totals = group.totals.filter((one) => one.column === column.id);
          return (
            <td key={column.id} className="tabular border-0! text-right align-top font-semibold">
              {totals.map((total) => (
                <p key={total.id}>
                  <span className="mr-3">{total.label}</span>
                  <span {...(live && { 'aria-live': 'polite' as const })}>
                    {totalShown(group, total, sheet.value(place(total.id))) || '—'}
                  </span>
                </p>
              ))}
            </td>
          );
        })}
        {live && <td className="border-0!" />}
      </tr>
    </tfoot>
  );
}
