import type { RecordData, TableAtWork } from '../../contract/answers-from-server';
import { stageRemoval, typeCell } from '../../core/record/staged';
import { editedRecord } from './record-cells';
import type { HistoryLine } from './RecordHistory';
import type { StagedEdits } from './use-staged';

/** What may be done with a record beside its cells: it is staged, as in the grid. */
export function recordEdits({ may, table }: TableAtWork, { edit }: StagedEdits) {
  return {
    ...(may.remove && {
      onRemove: (row: RecordData) => edit((staged) => stageRemoval(staged, editedRecord(table, row))),
    }),
    ...(may.change && {
      onRestore: (row: RecordData, line: HistoryLine) =>
        edit((staged) =>
          line.cells.reduce((all, { column: id, before }) => {
            const column = table.columns.find((one) => one.id === id);
            return column === undefined ? all : typeCell(all, editedRecord(table, row), column, before);
          }, staged),
        ),
    }),
  };
}
