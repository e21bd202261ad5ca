import { useEffect } from 'react';
import type { SheetData } from '../../contract/sheet-from-server';
import type { RowState } from '../../core/form/cells';
import type { RowsQuestion } from '../../core/form/design';
import type { Sheet } from '../../core/form/sheet';
import { newUuid } from '../../core/kernel/ids';

/** Every group ends with one blank row to type in. The first ones are drawn on the server too, so their ids follow from the version. */
function withBlankRows(sheet: Sheet, rowId: (at: string) => string): Sheet {
  for (const group of sheet.form.groups.values()) {
    const outer = group.within === undefined ? [undefined] : sheet.filledRows(group.within);
    for (const of of outer) {
      const rows = sheet.rows(group.id, of?.id);
      // In a row, they begin once somebody wants them.
      const isWanted = of === undefined || rows.length > 0 || isNeeded(sheet, group, of);
      if (isWanted && rows.length === sheet.filledRows(group.id, of?.id).length && rows.length < group.most)
        sheet.offerRow(
          group.id,
          rowId(of === undefined ? `${rows.length}` : `${of.id}-${rows.length}`),
          of?.id,
        );
    }
  }
  return sheet;
}

const isNeeded = (sheet: Sheet, { id, least }: RowsQuestion, of: RowState): boolean => {
  const place = [of.group, of.id, id] as const;
  return sheet.isAsked(place) && (least > 0 || sheet.isRequired(place));
};

/** A new sheet may have more of them from the beginning. */
export function withFirstRows(sheet: Sheet, { submission, record }: SheetData): Sheet {
  const rowId = (at: string): string => `v${submission?.version ?? 0}-${at}`;
  for (const { id, starts, most } of sheet.form.groups.values())
    if (starts?.t === 'empty' && submission === null && record === null)
      for (let at = sheet.rows(id).length; at < Math.min(starts.count, most); at++)
        sheet.offerRow(id, rowId(`${at}`));
  return withBlankRows(sheet, rowId);
}

export function useBlankRows(sheet: Sheet): void {
  const { version } = sheet;
  useEffect(() => void withBlankRows(sheet, () => newUuid()), [sheet, version]);
}
