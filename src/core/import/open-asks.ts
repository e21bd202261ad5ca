import { columnPath, type Decisions } from './decisions';
import type { DetectedColumn, Detection } from './detection';
import type { Into } from './into-table';

/** What was asked and not answered, of the columns that are taken: each with its path. */
export function openAsks(
  detection: Detection,
  decisions: Decisions,
): { path: string; ask: NonNullable<DetectedColumn['ask']> }[] {
  return detection.sheets
    .filter(({ name }) => decisions.sheets[name]?.leaveOut !== true)
    .flatMap((sheet) =>
      sheet.columns
        .filter(({ name }) => isTaken(decisions.sheets[sheet.name]?.into, name))
        .flatMap(({ name, ask }) => {
          const path = columnPath(sheet.name, name);
          const decided = decisions.columns[path] ?? {};
          const answered =
            ask === null ||
            decided.leaveOut === true ||
            (ask.t === 'date-order' ? decided.dateOrder : decided.decimalSign) !== undefined ||
            (decided.kind !== undefined &&
              decided.kind !== 'date' &&
              decided.kind !== 'date-time' &&
              ask.t === 'date-order') ||
            decided.kind === 'text';
          return answered ? [] : [{ path, ask }];
        }),
    );
}

const isTaken = (into: Into | undefined, heading: string): boolean =>
  into === undefined || into.columns[heading] !== undefined;
