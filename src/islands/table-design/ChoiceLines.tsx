import { useQuery } from '@tanstack/react-query';
import { EyeOff, RotateCcw, X } from 'lucide-react';
import { addChoices } from '../../core/table/edit';
import type { Column, ColumnChoice } from '../../core/table/model';
import { fetched } from '../kit/call';
import { NextInput } from '../kit/NextInput';
import { Word } from '../kit/Sentence';
import type { TableDesign } from './use-table-design';

interface Props {
  readonly design: TableDesign;
  readonly column: Column;
  readonly change: (part: Partial<Column>) => void;
}

/** The choices of a column: the words people see and the code that is stored. A choice that records hold is retired, not taken away. */
export function ChoiceLines({ design, column, change }: Props) {
  const there = new Set(design.columnThere(column.id)?.choices.map(({ code }) => code));
  const set = (at: number, part: Partial<ColumnChoice>) => change({ choices: column.choices.map((one, i) => (i === at ? { ...one, ...part } : one)) });
  return (
    <div className="mb-2 text-[14px]" role="group" aria-label="Choices">
      <p className="mb-1">of these, each with the code that is stored</p>
      <ul className="grid gap-1">{column.choices.map((one, i) => (
        <li key={i} className={`flex items-center gap-1.5 ${one.retired === true ? 'text-slate-600 line-through' : ''}`}>
          <Word label={`Words of choice ${i + 1}`} value={one.label} onChange={(label) => set(i, { label })} />
          {there.has(one.code) ? <code className="font-mono text-[13px] text-slate-600">{one.code}</code> : <Word mono label={`Code of choice ${i + 1}`} value={one.code} onChange={(code) => set(i, { code: code.slice(0, 100) })} />}
          {there.has(one.code)
            ? <button type="button" className="button-plain ml-auto text-[13px]" onClick={() => set(i, { retired: one.retired === true ? undefined : true })}>{one.retired === true ? <><RotateCcw size={13} aria-hidden />Offer again</> : <><EyeOff size={13} aria-hidden />Retire</>}<span className="sr-only"> {one.label}</span></button>
            : <button type="button" className="button-plain ml-auto" aria-label={`Take ${one.label} out`} onClick={() => change({ choices: column.choices.filter((_, at) => at !== i) })}><X size={14} aria-hidden /></button>}
        </li>
      ))}</ul>
      <div className="mt-1.5"><NextInput label="Next choice" placeholder="Type the next choice, or paste several" onAdd={(text) => change({ choices: addChoices(column.choices, text.replaceAll('\t', '\n')) })} /></div>
      {column.choices.length === 0 && <TakeValues design={design} column={column} onTake={(values) => change({ choices: addChoices([], values.join('\n')) })} />}
    </div>
  );
}

/** What the column holds already, as choices in one step. */
function TakeValues({ design, column, onTake }: { design: TableDesign; column: Column; onTake: (values: string[]) => void }) {
  const known = design.columnThere(column.id) !== null;
  const { data } = useQuery({ queryKey: ['values', design.table.key, column.id], queryFn: () => fetched<{ values: string[]; more: boolean }>(`/api/tables/${design.base?.key}/columns/${column.id}/values`), enabled: known });
  if (!known || data === undefined || data.values.length === 0) return null;
  if (data.more) return <p className="quiet mt-1">Its records hold too many different values to be choices.</p>;
  return <button type="button" className="button mt-1.5" onClick={() => onTake(data.values)}>Take the {data.values.length} values its records hold</button>;
}
