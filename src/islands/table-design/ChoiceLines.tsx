import { useQuery } from '@tanstack/react-query';
import { addChoices } from '../../core/table/edit';
import type { Column } from '../../core/table/model';
import { fetched } from '../kit/call';
import { ChoiceEditor } from '../kit/ChoiceEditor';
import { ListPick } from '../kit/ListPick';
import type { TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly design: TableDesign;
  readonly column: Column;
  readonly change: (part: Partial<Column>) => void;
}

/** The choices of a column: its own, or those of a list. */
export function ChoiceLines({ design, column, change }: Props) {
  const before = design.columnThere(column.id);
  // Of a list, its choices are changed with it.
  const there = new Set(before?.list === null ? before.choices.map(({ code }) => code) : []);
  return (
    <div className="mb-2 text-[14px]" role="group" aria-label={speak`Choices`}>
      <ListPick
        lists={design.data.lists}
        list={column.list}
        choices={column.choices}
        name={column.label}
        onChange={change}
      >
        <p className="mb-1">{speak`of these, each with the code that is stored`}</p>
        <ChoiceEditor choices={column.choices} there={there} onChange={(choices) => change({ choices })} />
        {column.choices.length === 0 && (
          <TakeValues
            design={design}
            column={column}
            onTake={(values) => change({ choices: addChoices([], values.join('\n')) })}
          />
        )}
      </ListPick>
    </div>
  );
}

/** What the column holds already, as choices in one step. */
function TakeValues({
  design,
  column,
  onTake,
}: {
  design: TableDesign;
  column: Column;
  onTake: (values: string[]) => void;
}) {
  const known = design.columnThere(column.id) !== null;
  const { data } = useQuery({
    queryKey: ['values', design.table.key, column.id],
    queryFn: () =>
      fetched<{ values: string[]; more: boolean }>(
        `/api/tables/${design.base?.key}/columns/${column.id}/values`,
      ),
    enabled: known,
  });
  if (!known || data === undefined || data.values.length === 0) return null;
  if (data.more)
    return <p className="quiet mt-1">{speak`Its records hold too many different values to be choices.`}</p>;
  return (
    <button
      type="button"
      className="button mt-1.5"
      onClick={() => onTake(data.values)}
    >{speak`Take the ${data.values.length} values its records hold`}</button>
  );
}
