import { counted, digits } from '../../core/wording/numbers';
import { CircleCheck, FileText, TriangleAlert } from '../kit/icons';
import type { TableChange } from '../../core/table/change';
import type { ColumnUse, Impact } from '../../core/table/table-change';
import { meetsWords } from './CheckMargin';
import { changeSentence } from '../../core/wording/change-sentence';
import { issueSentence } from '../../core/wording/issue-sentence';
import { useImpact, useRun, type TableDesign } from './use-table-design';
import { SharedValues, Values } from './ColumnValues';
import { speak, spoken } from '../../core/wording/speak';

const records = (n: number): string => counted(n, 'record');

/** What is about to change, in words, with what it meets: values that do not fit are mended here. */
export function PlanFace({ design, back }: { design: TableDesign; back: () => void }) {
  const { changes, issues } = design;
  const { impact, looking, failed } = useImpact(design);
  const inTheWay = issues.length > 0 ? issues : (impact?.issues ?? []);
  return (
    <div className="sheet-frame">
      <section aria-label={speak`What changes`} aria-busy={looking}>
        <ol>
          {changes.map((change, i) => (
            <li key={i} className="line">
              <span className="gutter">{i + 1}</span>
              <div className="min-w-0">
                <p>{changeSentence(change, false)}</p>
                {impact !== null && <Meets design={design} change={change} impact={impact} />}
              </div>
            </li>
          ))}
        </ol>
        {failed && (
          <p
            role="alert"
            className="trouble p-5"
          >{speak`The records could not be looked at. Try again in a moment.`}</p>
        )}
        {inTheWay.length > 0 && (
          <div role="alert" className="border-b border-slate-200 bg-rust-soft py-3 pr-5 pl-[46px] text-rust">
            <h2 className="mb-1 font-sans text-[15px] font-semibold text-rust">{speak`To fix first`}</h2>
            <ul className="grid gap-1 text-[14px]">
              {inTheWay.map((one, i) => (
                <li key={i}>
                  {labelAt(design, String(one.path[0]))}
                  {issueSentence(one)}
                </li>
              ))}
            </ul>
          </div>
        )}
      </section>
      <PlanMargin
        design={design}
        impact={impact}
        looking={looking}
        blocked={inTheWay.length > 0}
        back={back}
      />
    </div>
  );
}

const labelAt = ({ table }: TableDesign, id: string): string => {
  const label = table.columns.find((column) => column.id === id)?.label;
  return label === undefined ? '' : `${label}: `;
};

/** Columns that are retired while a live form goes on asking for them: people would fill in what nobody sees. */
const stillAsked = (design: TableDesign, impact: Impact): { label: string; form: string }[] =>
  design.changes.flatMap((change) =>
    change.t !== 'retire-column'
      ? []
      : impact.uses
          .filter(({ column, live, where }) => column === change.column.id && live && where.includes('asked'))
          .map(({ form }) => ({ label: change.column.label, form })),
  );

function StillAsked({ design, impact }: { design: TableDesign; impact: Impact }) {
  return stillAsked(design, impact).map(({ label, form }) => (
    <p key={`${label} ${form}`} className="mb-2 flex gap-1.5 text-[14px] font-semibold text-ochre">
      <TriangleAlert size={15} aria-hidden className="mt-0.5 shrink-0" />
      {speak`${form} goes on asking for ${label}, and nobody would see the answers. Release it without that question first.`}
    </p>
  ));
}

function PlanMargin({
  design,
  impact,
  looking,
  blocked,
  back,
}: {
  design: TableDesign;
  impact: Impact | null;
  looking: boolean;
  blocked: boolean;
  back: () => void;
}) {
  const { busy, trouble, run, drop } = useRun(design);
  const open = openMisfits(impact);
  return (
    <aside id="margin" className="margin-pane" aria-label={speak`Carrying it out`}>
      <section className="margin-part first">
        <h2 className="margin-title">
          {design.isNew ? speak`A new table` : counted(design.changes.length, 'change')}
        </h2>
        {impact === null && !blocked && (
          <div aria-busy="true" className="grid gap-2">
            {[1, 2].map((i) => (
              <div key={i} className="h-4 rounded bg-slate-100" />
            ))}
          </div>
        )}
        {impact !== null && !design.isNew && (
          <p className="mb-2 text-[14px]">
            {impact.records === 0
              ? speak`The table holds no records yet.`
              : impact.byJob
                ? speak`It holds ${records(impact.records)}, so they are filled by and by, while everybody goes on working. You see how far it has come, and may leave meanwhile.`
                : speak`It holds ${records(impact.records)}. All of it is done at once, or nothing is.`}
          </p>
        )}
        {open > 0 && (
          <p className="mb-2 flex gap-1.5 text-[14px] font-semibold text-ochre">
            <TriangleAlert size={15} aria-hidden className="mt-0.5 shrink-0" />
            {speak`${open === 1 ? speak`One value does` : speak`${digits(open)} values do`} not fit yet`}
          </p>
        )}
        {impact !== null && <StillAsked design={design} impact={impact} />}
        {impact !== null && !looking && !blocked && open === 0 && stillAsked(design, impact).length === 0 && (
          <p className="mb-2 flex gap-1.5 text-[14px] font-semibold text-lichen-deep">
            <CircleCheck size={15} aria-hidden className="mt-0.5 shrink-0" />
            {speak`Nothing stands in the way`}
          </p>
        )}
        <div role="alert">
          {trouble !== null && (
            <div className="mb-2 rounded-md bg-rust-soft px-3 py-2 text-[14px] text-rust">
              <p className="font-semibold">{trouble.title}</p>
              {(trouble.issues ?? []).map(({ sentence }, i) => (
                <p key={i}>{sentence}</p>
              ))}
            </div>
          )}
          {trouble === null && design.refused.length > 0 && (
            <div className="mb-2 rounded-md bg-rust-soft px-3 py-2 text-[14px] text-rust">
              <p className="font-semibold">{speak`The table is as it was`}</p>
              {design.refused.map((one, i) => (
                <p key={i}>{issueSentence(one)}</p>
              ))}
            </div>
          )}
        </div>
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="button button-go"
            disabled={busy || looking || blocked || open > 0 || impact === null || design.isBehind}
            onClick={() => void run()}
          >
            {design.isNew ? speak`Make the table` : speak`Change the table`}
          </button>
          <button type="button" className="button" onClick={back}>{speak`Back to the columns`}</button>
        </div>
      </section>
      <section className="margin-part">
        <button type="button" className="button-plain text-rust" disabled={busy} onClick={() => void drop()}>
          {design.isNew ? speak`Drop this table` : speak`Drop these changes`}
        </button>
        <p className="quiet">{speak`What is drawn here goes; the table stays as it is.`}</p>
      </section>
    </aside>
  );
}

const openMisfits = (impact: Impact | null): number =>
  (impact?.columns ?? []).reduce((sum, { misfitRows, repeatedRows }) => sum + misfitRows + repeatedRows, 0) +
  (impact?.shared ?? []).reduce((sum, { rows }) => sum + rows, 0);

/** What one change meets in the records and in the forms. */
function Meets({ design, change, impact }: { design: TableDesign; change: TableChange; impact: Impact }) {
  if (change.t === 'keep-apart') {
    const found = impact.shared.find(({ columns }) => columns.join() === change.columns.join());
    return found === undefined ? null : <SharedValues rows={found.rows} values={found.repeated} />;
  }
  if (change.t === 'add-check' || change.t === 'change-check') {
    const found = impact.checks.find(({ check }) => check === change.check.id);
    return found === undefined ? null : (
      <p className={found.broken !== null && found.broken > 0 ? 'text-[14px] text-ochre' : 'quiet'}>
        {meetsWords(found, impact.records)}
      </p>
    );
  }
  if (!('column' in change)) return null;
  const { id } = change.column;
  const column = impact.columns.find((one) => one.column === id);
  const uses = touchesForms.has(change.t) ? impact.uses.filter((use) => use.column === id) : [];
  const values = change.t === 'convert-column' || change.t === 'require-column' || change.t === 'add-column';
  const isFirst =
    design.changes.find(
      (one) =>
        'column' in one &&
        one.column.id === id &&
        (one.t === 'convert-column' || one.t === 'require-column' || one.t === 'add-column'),
    ) === change;
  return (
    <>
      {change.t === 'retire-column' && impact.records > 0 && (
        <p className="quiet">{speak`${records(impact.records)} keep what they hold in it.`}</p>
      )}
      {values && isFirst && column !== undefined && <Values design={design} column={column} />}
      {change.t === 'add-column' && column === undefined && design.redesign.mends[id]?.[''] !== undefined && (
        <p className="quiet">{speak`${records(impact.records)} get “${design.redesign.mends[id]['']}”.`}</p>
      )}
      {change.t === 'make-unique' && column !== undefined && (
        <SharedValues rows={column.repeatedRows} values={column.repeated} />
      )}
      {uses.map((use) => (
        <Use key={use.formId} use={use} />
      ))}
    </>
  );
}

const touchesForms: ReadonlySet<TableChange['t']> = new Set([
  'rename-column',
  'convert-column',
  'retire-column',
  'remove-column',
  'change-choices',
  'require-column',
  'relabel-column',
]);
const placeWords = spoken((): Readonly<Record<ColumnUse['where'][number], string>> => ({
  asked: speak`asks for it`,
  shown: speak`shows it in a lookup`,
  carried: speak`carries it along`,
  expression: speak`reads it in a check or calculation`,
  offered: speak`offers its choices`,
}));

function Use({ use }: { use: ColumnUse }) {
  return (
    <p className="quiet flex items-start gap-1.5">
      <FileText size={13} aria-hidden className="mt-0.5 shrink-0" />
      <span>
        <a href={`/forms/${use.formId}`} className="text-slate-700">
          {use.form}
        </a>{' '}
        {use.where.map((one) => placeWords()[one]).join(speak` and `)}
        {!use.live && speak`, in its draft`}
      </span>
    </p>
  );
}
