import { useEffect, useRef, useState } from 'react';
import { isBlank } from '../../core/form/answers';
import type { RowState } from '../../core/form/cells';
import type { LookupQuestion, RowsQuestion } from '../../core/form/design';
import { labelOf } from '../../core/form/line';
import { asRecord, type PickedRecord } from '../../core/form/picked-record';
import { startsId } from '../../core/form/lookup-filter';
import { rowsForEach } from '../../core/form/starting-rows';
import { newUuid } from '../../core/kernel/ids';
import { call } from '../kit/call';
import { lookupAddress } from '../kit/way-in';
import { givenTo } from './lookup-given';
import type { Filling } from './use-fill';
import { speak } from '../../core/wording/speak';

/** What there is to say of the rows that were begun, or could not be. */
type Said = { readonly t: 'nothing' | 'away' | 'none' } | { readonly t: 'more'; readonly most: number };

const cellsOf = (rows: readonly Pick<RowState, 'raw'>[]): string =>
  JSON.stringify(rows.map(({ raw }) => [...raw]));

/**
 * Begins rows with one for each record that a lookup offers, as soon as what its filter reads is answered;
 * and anew when that is answered otherwise, unless somebody has typed in them: then it is offered.
 */
export function StartingRows({
  group,
  lookup,
  fill,
}: {
  group: RowsQuestion;
  lookup: LookupQuestion;
  fill: Filling;
}) {
  const { sheet, data, model, changed } = fill;
  const given = givenTo(sheet, startsId(group.id), null) ?? {};
  const key = JSON.stringify(given);
  const rows = sheet.filledRows(group.id);
  const [said, setSaid] = useState<Said>({ t: 'nothing' });
  // A sheet that is gone on with has the rows it was left with.
  const begunFor = useRef<string | null>(rows.length > 0 ? key : null);
  const begun = useRef<string | null>(null);
  const waits = Object.values(given).some(isBlank);
  const isUntouched = rows.length === 0 || cellsOf(rows) === begun.current;
  const isOther = !waits && key !== begunFor.current;

  const begin = async () => {
    const before = cellsOf(rows);
    begunFor.current = key;
    setSaid({ t: 'nothing' });
    const answer = await call<{ records: PickedRecord[]; more: boolean }>(
      'POST',
      `${lookupAddress(data.formId, lookup.id)}/each`,
      { submission: fill.hand.submission, given },
    ).catch(() => null);
    if (begunFor.current !== key) return;
    if (answer?.ok !== true) return setSaid({ t: 'away' });
    if (cellsOf(sheet.filledRows(group.id)) !== before) {
      // Somebody has typed in them meanwhile: they are offered, and nothing is written over.
      begunFor.current = null;
      return setSaid({ t: 'nothing' });
    }
    const table = model.tables.get(lookup.table);
    const records = answer.value.records.map((one) => asRecord(one, table));
    const next = rowsForEach(sheet.form, group, lookup.id, records, {
      newId: newUuid,
      defaults: data.rowDefaults[group.id],
    });
    sheet.replaceRows(
      group.id,
      next,
      records.map((record) => [lookup.table, record] as const),
    );
    begun.current = cellsOf(sheet.filledRows(group.id));
    // Whoever only looks at a form leaves no draft behind.
    if (fill.keeping.t !== 'fresh') changed();
    setSaid(
      records.length === 0
        ? { t: 'none' }
        : answer.value.more
          ? { t: 'more', most: group.most }
          : { t: 'nothing' },
    );
  };
  useEffect(() => {
    if (isOther && isUntouched) void begin();
  });
  if (isOther && !isUntouched)
    return (
      <Notice
        action={speak`Begin the rows anew`}
        onAction={() => void begin()}
      >{speak`These rows were begun for another answer.`}</Notice>
    );
  switch (said.t) {
    case 'away':
      return (
        <Notice
          action={speak`Try again`}
          onAction={() => void begin()}
        >{speak`The rows could not be fetched; type them, or`}</Notice>
      );
    case 'none':
      return <Notice>{speak`Nothing is there to begin with; type the rows yourself.`}</Notice>;
    case 'more':
      return <Notice>{speak`Only the first ${said.most} are here; there are more.`}</Notice>;
    default:
      return waits ? <Notice>{waitWords(given, fill)}</Notice> : null;
  }
}

const waitWords = (given: Readonly<Record<string, unknown>>, { data }: Filling): string =>
  speak`Rows come once you have answered ${Object.entries(given)
    .filter(([, raw]) => isBlank(raw as string | null))
    .map(([id]) => labelOf(data.design, id))
    .join(speak` and `)}.`;

function Notice({
  children,
  action,
  onAction,
}: {
  children: React.ReactNode;
  action?: string;
  onAction?: () => void;
}) {
  return (
    <p className="quiet mb-1 flex flex-wrap items-center gap-2" role="status">
      {children}
      {action !== undefined && (
        <button type="button" className="button-plain" onClick={onAction}>
          {action}
        </button>
      )}
    </p>
  );
}
