import { Fragment, useMemo, useState, type CSSProperties } from 'react';
import { shown, type RowState } from '../../core/form/cells';
import { isTyped, type RowsQuestion } from '../../core/form/design';
import { rowLetter } from '../../core/form/numbered-lines';
import { grouped } from '../../core/kernel/grouped';
import { newUuid } from '../../core/kernel/ids';
import { textOf } from '../kit/clipboard-block';
import { Copy, Plus } from '../kit/icons';
import { Asterisk } from './Asterisk';
import { headingOf, isNumeric } from './headings';
import { focusCell, pressed } from './row-keys';
import { RowLine } from './RowLine';
import { controlId, innerShown } from './sheet-model';
import { TotalsFoot } from './TotalsFoot';
import { Troubles } from './Troubles';
import type { Filling } from './use-fill';
import { speak } from '../../core/wording/speak';

/** So many rows are laid out each by itself, and only those in sight are drawn. */
const LONG = 60;
const columnsOf = ({ columns }: RowsQuestion): string =>
  ['2.5rem', ...columns.map((column) => `minmax(0, ${isNumeric(column) ? 1 : 2}fr)`), '2.5rem'].join(' ');

interface Props {
  readonly group: RowsQuestion;
  readonly fill: Filling;
  /** The row these stand in, and how it is called. */
  readonly of?: { readonly row: RowState; readonly letter: string };
  readonly rows?: readonly RowState[];
}

/** Repeating rows: a typed row is a row, and the last one is always there to type in. */
export function RowsView({ group, fill, of, rows = fill.sheet.rows(group.id) }: Props) {
  const isLong = rows.length > LONG;
  // The same each time, so that lines in which nothing changed are seen to be as they were.
  const shownIn = useMemo(() => innerShown(fill.data, group), [fill.data, group]);
  const inner = shownIn.map((one) => ({
    group: one,
    rows: grouped(fill.sheet.rows(one.id), (row) => row.of),
  }));
  const letterOf = (i: number): string => (of === undefined ? rowLetter(i) : `${of.letter}.${i + 1}`);
  return (
    <div
      id={controlId(of === undefined ? [group.id] : [of.row.group, of.row.id, group.id])}
      role="presentation"
      tabIndex={-1}
      className="relative overflow-x-auto"
      onKeyDown={(event) => pressed(event, group, rows, fill.hand)}
    >
      <table
        className={`grid-table rows-table sm:min-w-[560px] ${isLong ? 'rows-long' : ''}`}
        {...(isLong && { style: { '--columns': columnsOf(group) } as CSSProperties })}
      >
        <thead>
          <tr>
            <th className="w-8 min-w-8!">
              <span className="sr-only">{speak`Row`}</span>
            </th>
            {group.columns.map((column) => (
              <th key={column.id} className={isNumeric(column) ? 'text-right!' : ''}>
                {headingOf(column)}
                {column.required && isTyped(column) && <Asterisk />}
              </th>
            ))}
            <th className="w-9 min-w-9!">
              <span className="sr-only">{speak`Remove`}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <Fragment key={row.id}>
              <RowLine
                group={group}
                row={row}
                letter={letterOf(i)}
                hand={fill.hand}
                troubles={group.columns.flatMap(({ id }) => fill.shownAt([group.id, row.id, id]))}
              />
              {inner.map((one) => (
                <InnerRows
                  key={one.group.id}
                  group={one.group}
                  fill={fill}
                  of={{ row, letter: letterOf(i) }}
                  rows={one.rows.get(row.id) ?? []}
                />
              ))}
            </Fragment>
          ))}
        </tbody>
        <TotalsFoot group={group} sheet={fill.sheet} of={of?.row} live />
      </table>
      {of === undefined && fill.sheet.filledRows(group.id).length > 0 && (
        <CopyRows group={group} sheet={fill.sheet} />
      )}
    </div>
  );
}

/** What stands in a row, right below it; as long as that is nothing, a button that begins it. */
function InnerRows({ group, fill, of, rows }: Required<Props>) {
  const { sheet, hand } = fill;
  const place = [of.row.group, of.row.id, group.id] as const;
  const isBlank = rows.length === 0 && ![...of.row.raw.values()].some((raw) => raw !== null && raw !== '');
  if (isBlank || !sheet.isAsked(place)) return null;
  const begin = () => {
    const id = newUuid();
    sheet.offerRow(group.id, id, of.row.id);
    hand.changed();
    const [first] = group.columns;
    if (first !== undefined) requestAnimationFrame(() => focusCell([group.id, id, first.id]));
  };
  return (
    <tr>
      <td aria-hidden className="max-sm:hidden!" />
      <td colSpan={fill.sheet.form.groups.get(of.row.group)?.columns.length ?? 1}>
        <div role="group" aria-label={speak`${group.label}, row ${of.letter}`} className="inner-rows">
          {rows.length === 0 ? (
            <button type="button" className="button-plain text-[13px]" onClick={begin}>
              <Plus size={14} aria-hidden />
              {group.label}
              {sheet.isRequired(place) && <Asterisk />}
              <span className="sr-only"> {speak`of row ${of.letter}: add the first`}</span>
            </button>
          ) : (
            <>
              <p className="text-[13px] font-semibold">
                {group.label}
                {sheet.isRequired(place) && <Asterisk />}
              </p>
              <RowsView group={group} fill={fill} of={of} rows={rows} />
            </>
          )}
          <Troubles issues={fill.shownAt(place)} prefix={`${of.letter} · `} />
        </div>
      </td>
      <td aria-hidden className="max-sm:hidden!" />
    </tr>
  );
}

/** The rows as a spreadsheet takes them: with their headings, as people read them. */
function CopyRows({ group, sheet }: { group: RowsQuestion; sheet: Filling['sheet'] }) {
  const [words, setWords] = useState('');
  const copy = async () => {
    const rows = sheet.filledRows(group.id);
    const cells = rows.map((row) =>
      group.columns.map((column) => shown(column, row.values.get(column.id) ?? null)),
    );
    const text = textOf([group.columns.map(headingOf), ...cells]);
    const copied = await navigator.clipboard.writeText(text).then(
      () => true,
      () => false,
    );
    setWords(
      copied
        ? speak`${rows.length} ${rows.length === 1 ? speak`row` : speak`rows`} copied, with headings`
        : speak`This browser does not let us copy`,
    );
  };
  return (
    <p className="mt-1 flex items-center gap-3">
      <button type="button" className="button-plain text-[13px]" onClick={() => void copy()}>
        <Copy size={14} aria-hidden />
        {speak`Copy the rows`}
      </button>
      <span role="status" className="quiet">
        {words}
      </span>
    </p>
  );
}
