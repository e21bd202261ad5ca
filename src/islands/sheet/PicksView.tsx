import type { LookupQuestion, RowsQuestion } from '../../core/form/design';
import { shown, type RowState } from '../../core/form/cells';
import { X } from '../kit/icons';
import { sayWithUndo } from '../kit/say';
import { Lookups } from './Lookups';
import { focusCell } from './row-keys';
import { Troubles } from './Troubles';
import type { Filling } from './use-fill';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly group: RowsQuestion;
  readonly column: LookupQuestion;
  readonly fill: Filling;
}

/** Several records picked of one lookup: each as a word that can be taken out, and a place to pick the next. */
export function PicksView({ group, column, fill }: Props) {
  const { sheet, hand } = fill;
  const rows = sheet.filledRows(group.id);
  const next = sheet
    .rows(group.id)
    .find(({ raw }) => [...raw.values()].every((one) => one === null || one === ''));
  const focusNext = () =>
    requestAnimationFrame(() => {
      const blank = sheet.rows(group.id).at(-1);
      if (blank !== undefined) focusCell([group.id, blank.id, column.id]);
    });
  const picked = () => {
    hand.changed();
    focusNext();
  };
  return (
    <>
      {rows.length > 0 && (
        <ul className="mb-2 flex flex-wrap gap-1.5" aria-label={speak`${group.label}, what is picked`}>
          {rows.map((row) => (
            <Picked key={row.id} group={group} column={column} row={row} fill={fill} onGone={focusNext} />
          ))}
        </ul>
      )}
      {rows.map(({ id }) => (
        <Troubles key={id} issues={fill.shownAt([group.id, id, column.id])} />
      ))}
      {next !== undefined && rows.length < group.most && (
        <Lookups
          key={next.id}
          question={column}
          place={[group.id, next.id, column.id]}
          without={new Set(rows.map(({ raw }) => String(raw.get(column.id) ?? '')))}
          sheet={sheet}
          formId={hand.formId}
          submission={hand.submission}
          tables={hand.model.tables}
          name={rows.length === 0 ? group.label : speak`${group.label}, pick another`}
          invalid={false}
          onChange={picked}
          onTouch={() => hand.touch([group.id])}
        />
      )}
    </>
  );
}

function Picked({ group, column, row, fill, onGone }: Props & { row: RowState; onGone: () => void }) {
  const { sheet, hand } = fill;
  const typed = row.raw.get(column.id);
  const title = shown(column, row.values.get(column.id) ?? null);
  const words = title || String(typed ?? '');
  const isWrong = title === '' || fill.shownAt([group.id, row.id, column.id]).length > 0;
  const remove = () => {
    const putBack = sheet.removeRow(group.id, row.id);
    hand.changed();
    onGone();
    if (putBack !== null)
      sayWithUndo(speak`${words} taken out`, () => {
        putBack();
        hand.changed();
      });
  };
  return (
    <li
      className={`flex items-center gap-1 rounded-full py-0.5 pr-1 pl-3 ${isWrong ? 'bg-rust-soft text-rust' : 'bg-lichen-soft text-lichen-deep'}`}
    >
      <span className="max-w-72 truncate" title={words}>
        {words}
      </span>
      <button
        type="button"
        aria-label={speak`Take ${words} out`}
        className="rounded-full p-1 hover:bg-white/70"
        onClick={remove}
      >
        <X size={13} aria-hidden />
      </button>
    </li>
  );
}
