import { isAmongRecords, type TableCheck } from '../../core/check/check';
import { comparedInTable, existingSentence } from '../../core/check/existing';
import { newShortId } from '../../core/kernel/ids';
import { addCheck } from '../../core/table/edit';
import { issueSentence } from '../../core/wording/issue-sentence';
import { AddCheckLine } from '../kit/AddCheckLine';
import { CheckTag, ConditionWords } from '../kit/CheckWords';
import { ShieldCheck } from '../kit/icons';
import type { TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';

/** What must hold of every record, whichever way it is written: a line each, at the number of its column. */
export function CheckLines({ design }: { design: TableDesign }) {
  const { table } = design;
  const add = (on: string) => {
    const id = newShortId();
    design.editTable((one) => addCheck(one, { id, on, must: '', message: '', otherwise: 'stop' }));
    design.select(id);
  };
  if (table.columns.length === 0) return null;
  return (
    <section aria-labelledby="checks" className="border-t border-slate-200">
      <h2 id="checks" className="flex items-center gap-2 py-3 pl-[46px] font-sans text-[15px]">
        <ShieldCheck size={16} aria-hidden />
        {table.checks.length === 0
          ? speak`No checks yet`
          : `${table.checks.length} ${table.checks.length === 1 ? speak`check` : speak`checks`}`}
        <span className="quiet font-normal">{speak`for forms, this table and imports alike`}</span>
      </h2>
      {table.checks.map((check) => (
        <CheckLine key={check.id} design={design} check={check} />
      ))}
      <AddCheckLine
        what="column"
        places={table.columns.map(({ id, label }) => ({ value: id, label }))}
        onAdd={add}
      />
    </section>
  );
}

function CheckLine({ design, check }: { design: TableDesign; check: TableCheck }) {
  const { table, base, isNew } = design;
  const inHand = design.selected === check.id;
  const place = table.columns.findIndex(({ id }) => id === check.on);
  const known = base?.checks.find(({ id }) => id === check.id);
  const isChanged = known !== undefined && JSON.stringify(known) !== JSON.stringify(check);
  return (
    <div className={`line ${inHand ? 'bg-lichen-soft shadow-[inset_4px_0_0_var(--color-lichen)]' : ''}`}>
      <span className="gutter">{place < 0 ? '' : place + 1}</span>
      <div className="min-w-0">
        <button
          type="button"
          aria-pressed={inHand}
          onClick={() => design.select(check.id)}
          className="block w-full rounded text-left"
        >
          {isAmongRecords(check) ? (
            speak`Among all records, ${existingSentence(check, comparedInTable(table))}`
          ) : (
            <ConditionWords must={check.must} scope={design.scope} />
          )}
          {(isChanged || (known === undefined && !isNew)) && (
            <span className="tag ml-2 bg-marker py-0 text-ink">
              {isChanged ? speak`changed` : speak`new`}
            </span>
          )}
        </button>
        <p className="mt-0.5 flex flex-wrap items-center gap-2">
          <CheckTag otherwise={isAmongRecords(check) ? 'stop' : check.otherwise} message={check.message} />
        </p>
        {(inHand ? [] : design.issuesAt('checks', check.id)).slice(0, 1).map((issue, i) => (
          <p key={i} className="trouble">
            {issueSentence(issue)}
          </p>
        ))}
      </div>
    </div>
  );
}
