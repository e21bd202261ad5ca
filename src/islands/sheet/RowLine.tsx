import { lazy, memo, type ClipboardEvent } from 'react';
import { isTyped, type FieldQuestion, type RowsQuestion } from '../../core/form/design';
import { shown, type RowState } from '../../core/form/cells';
import { isFixedOnChange } from '../../core/form/use';
import { newUuid } from '../../core/kernel/ids';
import { Later } from '../kit/Awake';
import { X } from '../kit/icons';
import { sayWithUndo } from '../kit/say';
import { Control } from './Control';
import { pasteBlock } from './paste-rows';
import { focusCell } from './row-keys';
import { headingOf, isNumeric } from './headings';
import { Troubles, troubleId } from './Troubles';
import { useCells } from './use-cells';
import { sameIssues, type Hand, type ShownIssue } from './use-fill';
import { speak } from '../../core/wording/speak';

const RowMenu = lazy(() => import('./RowMenu').then((module) => ({ default: module.RowMenu })));

interface RowProps {
  readonly group: RowsQuestion;
  readonly row: RowState;
  readonly letter: string;
  readonly hand: Hand;
  /** What is wrong in it and is to be seen. */
  readonly troubles: readonly ShownIssue[];
}

export const RowLine = memo(Row, (a, b) => {
  const { troubles: before, ...was } = a;
  const { troubles: now, ...is } = b;
  return (
    sameIssues(before, now) &&
    was.row === is.row &&
    was.letter === is.letter &&
    was.hand === is.hand &&
    was.group === is.group
  );
});

function Row({ group, row, letter, hand, troubles: wrong }: RowProps) {
  const { sheet, changed } = hand;
  useCells(
    sheet,
    group.columns.map(({ id }) => [group.id, row.id, id] as const),
  );
  const blank = [...row.raw.values()].every((raw) => raw === null || raw === '');
  const troubles = blank ? [] : wrong;
  const remove = () => {
    const putBack = sheet.removeRow(group.id, row.id);
    changed();
    if (putBack)
      sayWithUndo(speak`Row ${letter} removed`, () => {
        putBack();
        changed();
      });
  };
  const place = (): number => sheet.rows(group.id, row.of).findIndex(({ id }) => id === row.id);
  const move = (by: 1 | -1) => {
    sheet.moveRow(group.id, row.id, place() + by);
    changed();
  };
  const duplicate = () => {
    const id = sheet.duplicateRow(group.id, row.id, newUuid);
    changed();
    const [first] = group.columns;
    if (first !== undefined && id !== null) requestAnimationFrame(() => focusCell([group.id, id, first.id]));
  };
  return (
    <>
      <tr>
        <td className="p-1! font-mono text-[13px] text-slate-600">
          {blank ? (
            <span className="px-1">{letter}</span>
          ) : (
            <Later likeness={<span className="px-1">{letter}</span>}>
              {() => (
                <RowMenu
                  letter={letter}
                  onDuplicate={sheet.filledRows(group.id, row.of).length < group.most ? duplicate : null}
                  onMove={move}
                  onRemove={remove}
                />
              )}
            </Later>
          )}
        </td>
        {group.columns.map((column) => (
          <Cell
            key={column.id}
            group={group}
            row={row}
            column={column}
            letter={letter}
            hand={hand}
            isBlank={blank}
            isWrong={wrong.some(({ path }) => path[2] === column.id)}
          />
        ))}
        <td>
          {!blank && (
            <button
              type="button"
              onClick={remove}
              aria-label={speak`Remove row ${letter}`}
              className="rounded p-1 hover:bg-slate-100"
            >
              <X size={15} aria-hidden />
            </button>
          )}
        </td>
      </tr>
      {troubles.length > 0 && (
        <tr>
          <td colSpan={group.columns.length + 2} className="pt-0!">
            <Troubles issues={troubles} prefix={`${letter} · `} />
          </td>
        </tr>
      )}
    </>
  );
}

interface CellProps {
  readonly group: RowsQuestion;
  readonly row: RowState;
  readonly column: FieldQuestion;
  readonly letter: string;
  readonly hand: Hand;
  readonly isBlank: boolean;
  readonly isWrong: boolean;
}

const Cell = memo(function Cell({ group, row, column, letter, hand, isBlank, isWrong }: CellProps) {
  const { sheet } = hand;
  const path = [group.id, row.id, column.id] as const;
  useCells(sheet, [path]);
  if (!sheet.isAsked(path))
    return (
      <td
        data-label={headingOf(column)}
        className="bg-slate-50 text-center text-slate-600"
        title={speak`Not asked in this row`}
      >
        –
      </td>
    );
  if (!isTyped(column) || (hand.isChange && isFixedOnChange(column)))
    return (
      <td
        data-label={headingOf(column)}
        className={`bg-slate-50 ${isNumeric(column) ? 'tabular text-right' : ''}`}
      >
        {(isBlank ? '' : shown(column, row.values.get(column.id) ?? null)) || '—'}
      </td>
    );
  const paste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text/plain');
    if (!/[\t\n]/.test(text.trim())) return;
    event.preventDefault();
    void pasteBlock(hand, group, path, text);
  };
  return (
    <td
      data-label={headingOf(column)}
      onPaste={paste}
      className={`p-1! ${isWrong ? 'ring-2 ring-rust ring-inset' : ''}`}
    >
      <Control
        question={column}
        place={path}
        sheet={sheet}
        formId={hand.formId}
        submission={hand.submission}
        tables={hand.model.tables}
        bare
        name={speak`${column.label}, row ${letter}`}
        invalid={isWrong}
        describedBy={isWrong ? troubleId(path) : undefined}
        onChange={hand.changed}
        onTouch={() => hand.touch(path)}
        device={hand.device}
        onComing={hand.coming}
      />
    </td>
  );
});
