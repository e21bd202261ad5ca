import { PEOPLE } from '../../core/expression/type';
import { keptInNewTable, keptInTable } from '../../core/form/change/kept-in';
import { keyFor } from '../../core/form/key';
import type { RowsQuestion } from '../../core/form/design';
import { newShortId, newUuid } from '../../core/kernel/ids';
import { plural, prefixFor } from '../../core/table/label';
import { Select } from '../kit/Select';
import { tableForRows } from './line-edits';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

const NEW = 'new';

/** The table the answers go to: a new one, or one that is there, whose columns of the same name and kind take them. */
export function TablePick({ bench }: { bench: Workbench }) {
  const { design, data, tables } = bench;
  const isThere = tables.has(design.table.id);
  const offered = data.tables.filter(
    ({ id, parent, linked }) => id !== PEOPLE && parent === null && (linked === null || linked.adds),
  );
  const pick = (id: string) => {
    const table = tables.get(id);
    bench.edit((now) => {
      const make = { id: newShortId, rowsTable: (group: RowsQuestion) => tableForRows(bench, now, group) };
      if (table !== undefined) return keptInTable(now, table, tables, make);
      const label = plural(now.title);
      const key = keyFor(label, new Set(data.tables.map((one) => one.key)), 'records');
      const prefix = prefixFor(label, new Set(data.tables.map((one) => one.prefix)));
      return keptInNewTable(now, { id: newUuid(), key, label, prefix }, make);
    });
  };
  return (
    <Select
      label={speak`Table the answers go to`}
      value={isThere ? design.table.id : NEW}
      choices={[
        { value: NEW, label: speak`a new table` },
        ...offered.map(({ id, label }) => ({ value: id, label })),
      ]}
      onChange={(id) => id !== (isThere ? design.table.id : NEW) && pick(id)}
    />
  );
}
