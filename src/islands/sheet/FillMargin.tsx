import { CircleCheck, Database, FilePen, ListChecks, MessageSquareWarning, Route } from '../kit/icons';
import { reasonsAsked } from '../../core/check/sheet-issues';
import { askedFor } from '../../core/approval/path';
import { placesAt, toldOf, type Told } from '../../core/approval/told';
import { stepsAsTold, type StepNow } from '../../core/approval/whom';
import { PEOPLE } from '../../core/expression/type';
import { askedWords } from '../../core/wording/step-sentence';
import { groupsOf } from '../../core/form/design';
import { lineNumbers } from '../../core/form/numbered-lines';
import { sheetChanges } from '../../core/form/sheet-changes';
import type { Sheet } from '../../core/form/sheet';
import { counted } from '../../core/wording/numbers';
import { controlId, goTo, lineAtPlace } from './sheet-model';
import { ToFix } from './ToFix';
import type { Filling } from './use-fill';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** What is left to fix, what asks for a reason, who will see it, and what will be kept. */
export function FillMargin({ fill }: { fill: Filling }) {
  const toMend = fill.issues.filter(({ code }) => code !== 'reason-needed');
  return (
    <aside id="margin" className="margin-pane" aria-label={speak`About this sheet`}>
      <section className="margin-part first print:hidden" aria-labelledby="mend">
        <h2 id="mend" className="margin-title">
          <ListChecks size={16} aria-hidden />
          {fill.data.record === null ? speak`Before you send` : speak`Before you save`}{' '}
          <span className="ml-auto text-[13px]" role="status">
            {toMend.length === 0 ? speak`nothing to fix` : speak`${toMend.length} to fix`}
          </span>
        </h2>
        {toMend.length === 0 && (
          <p className="flex items-center gap-2 text-[14px] text-lichen-deep">
            <CircleCheck size={16} aria-hidden />
            {speak`Everything holds.`}
          </p>
        )}
        <ul className="grid gap-1">
          <ToFix issues={toMend} />
        </ul>
        {toMend.flatMap(({ onto }) =>
          onto === undefined
            ? []
            : [
                <button
                  key={onto}
                  type="button"
                  className="button mt-2"
                  onClick={() => void fill.goOnto(onto)}
                >
                  <FilePen size={15} aria-hidden />
                  {speak`Go on as a change of it`}
                </button>,
              ],
        )}
      </section>
      {fill.data.silent.length > 0 && (
        <p
          className="margin-part font-semibold text-ochre"
          role="status"
        >{speak`${fill.data.silent.join(speak` and `)} does not answer just now, and what you send is written there too. Your draft is kept; send it a little later.`}</p>
      )}
      <Reasons fill={fill} />
      {fill.data.outside !== true && <WhoSees fill={fill} />}
      {fill.data.outside === true ? null : fill.record.was === null ? (
        <Kept fill={fill} />
      ) : (
        <WillChange fill={fill} was={fill.record.was} />
      )}
    </aside>
  );
}

function Reasons({ fill }: { fill: Filling }) {
  const asked = reasonsAsked(fill.sheet, fill.record.stood);
  const numbers = lineNumbers(fill.data.design);
  if (asked.length === 0) return null;
  return (
    <section className="margin-part" aria-labelledby="reasons">
      <h2 id="reasons" className="margin-title text-ochre!">
        <MessageSquareWarning size={16} aria-hidden />
        {speak`Worth a reason`}
      </h2>
      {asked.map((check) => (
        <div key={check.id} className="mb-2">
          <label htmlFor={controlId(['reason', check.id])} className="mb-1 flex gap-2 text-[14px]">
            <span className="font-mono font-semibold">{numbers.get(check.on)}</span>
            {check.message}
          </label>
          <textarea
            id={controlId(['reason', check.id])}
            rows={2}
            className={`box ${fill.tried && fill.sheet.reason(check.id).trim() === '' ? 'wrong' : ''}`}
            value={fill.sheet.reason(check.id)}
            onChange={(event) => {
              fill.sheet.setReason(check.id, event.target.value);
              fill.changed();
            }}
          />
        </div>
      ))}
    </section>
  );
}

function WhoSees({ fill }: { fill: Filling }) {
  const { design } = fill.data;
  const told = toldOf(fill.sheet, null);
  return (
    <section className="margin-part" aria-labelledby="who">
      <h2 id="who" className="margin-title">
        <Route size={16} aria-hidden />
        {speak`Who will see it`}
      </h2>
      {design.steps.length === 0 && <p className="quiet">{speak`Nobody is asked; it is kept at once.`}</p>}
      <ol className="grid gap-2">
        {stepsAsTold(design, told).map((step, i) => (
          <li key={step.id} className="flex gap-2.5">
            <span aria-hidden className="mt-0.5 size-4 shrink-0 rounded-full border-2 border-slate-400" />
            <span>
              <strong>{step.label}</strong>
              {step.beside === true && i > 0 && <span className="quiet"> {speak`at the same time`}</span>}
              <span className="quiet block">{whomWords(step, told, fill)}</span>
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** Whom a step asks about the answers as they are. */
function whomWords(step: StepNow, told: Told, { sheet, data: { people, asking } }: Filling): string {
  if (told.skipped.includes(step.id)) return speak`not asked about these answers`;
  const nameOf = (id: string) =>
    people.find((one) => one.id === id)?.name ?? sheet.record(PEOPLE, id)?.title ?? '';
  const named = told.named[step.id] ?? [];
  const whom = { ...step, people: [...named, ...step.people] };
  const fallback = step.fallback === undefined ? null : nameOf(step.fallback);
  if (step.undecided !== undefined) return fallback ?? speak`the rules do not say yet`;
  if (step.role !== undefined && told.named[step.id] === undefined) {
    const [place] = placesAt(step, sheet);
    return place === undefined
      ? speak`whoever looks after the place in the answers`
      : speak`whoever looks after ${place}`;
  }
  if (step.named !== undefined && whom.people.length === 0)
    return speak`whoever you name in the answers${fallback === null ? '' : speak`; where that is nobody, ${fallback}`}`;
  const asked = askedFor(whom, asking.id);
  return asked.length === 0
    ? speak`nobody but you is named, and nobody approves their own`
    : askedWords(step, asked.map(nameOf));
}

function Kept({ fill }: { fill: Filling }) {
  const { design } = fill.data;
  const groups = groupsOf(design);
  return (
    <section className="margin-part" aria-labelledby="kept">
      <h2 id="kept" className="margin-title">
        <Database size={16} aria-hidden />
        {speak`What will be kept`}
      </h2>
      <p className="text-[14px]">
        {speakIn`1 row in ${(<strong>{design.table.key}</strong>)}${groups.map((group) => {
          const { length } = fill.sheet.filledRows(group.id);
          return (
            <span key={group.id}>
              {', '}
              {speakIn`${length} ${length === 1 ? speak`row` : speak`rows`} in ${(<strong>{group.table.key}</strong>)}`}
            </span>
          );
        })}${design.steps.length > 0 && speak`, once approved`}`}
        .
      </p>
    </section>
  );
}

/** Lines that are named one by one; of more there is only their number. */
const MOST_LINES = 30;

/** What of the record is otherwise by now, as it was and as it becomes; also what follows from what was typed. */
function WillChange({ fill, was }: { fill: Filling; was: Sheet }) {
  const changes = sheetChanges(was, fill.sheet);
  return (
    <section className="margin-part" aria-labelledby="changes">
      <h2 id="changes" className="margin-title">
        <Database size={16} aria-hidden />
        {speakIn`What will change${(
          <span className="ml-auto text-[13px]" role="status">
            {changes.length === 0 ? speak`nothing yet` : counted(changes.length, 'change')}
          </span>
        )}`}
      </h2>
      <ul className="grid gap-1.5 text-[14px]">
        {changes.slice(0, MOST_LINES).map(({ place, label, before, after }) => (
          <li key={place.join()} className="flex gap-2">
            <button
              type="button"
              className="min-w-6 text-left font-mono font-semibold text-lichen-deep hover:underline"
              onClick={() => goTo(place)}
            >
              {lineAtPlace(fill.data.design, fill.sheet, place)}
            </button>
            <span className="min-w-0 break-words">
              <span className="quiet block">{label}</span>
              <mark className="marked text-ink">{after}</mark>{' '}
              {before !== '' && <s className="text-slate-600">{before}</s>}
            </span>
          </li>
        ))}
      </ul>
      {changes.length > MOST_LINES && (
        <p className="quiet mt-1">{speak`and ${counted(changes.length - MOST_LINES, 'more change')}`}</p>
      )}
      <p className="quiet mt-2">
        {speakIn`All else stays as it is${fill.data.design.steps.length > 0 && speak`; this is kept once it is approved`}`}
        .
      </p>
    </section>
  );
}
