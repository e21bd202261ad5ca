import { CircleCheck, ExternalLink, Rocket } from '../kit/icons';
import { useState } from 'react';
import type { Problem } from '../../contract/answers-from-server';
import { groupsOf, questionsOf } from '../../core/form/design';
import { limits } from '../../core/limits';
import { counted, digits } from '../../core/wording/numbers';
import { call } from '../kit/call';
import { useWho, Who } from '../kit/Who';
import { wordsOf } from '../kit/who-grants';
import { Different } from './Different';
import { FromOutside } from './FromOutside';
import { InAndOut } from './InAndOut';
import { OpeningSettings } from './OpeningSettings';
import { Releases } from './Releases';
import { Things } from './Things';
import { PlannedChanges, usePlan } from './PlanMargin';
import type { Workbench } from './use-workbench';
import type { FaceProps } from './face-props';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** A second of calculating is what the longest sheet may take; most take none that anybody would notice, and then nothing is said. */
const NOTICEABLE_STEPS = 50_000;

function WorstCase({ bench }: { bench: Workbench }) {
  const steps = bench.worstSteps;
  if (steps === null || steps < NOTICEABLE_STEPS) return null;
  return (
    <p className="mb-3 rounded-md bg-ochre-soft px-3 py-2 text-[14px] text-ochre">{speak`With every row filled, its calculations take about ${(steps / 1_000_000).toFixed(2)} s after a key press.`}</p>
  );
}

/** What a release shows of other tables to everybody who fills the form, whatever else they may see. */
function ShownToAll({ bench }: { bench: Workbench }) {
  const lookups = [
    ...questionsOf(bench.design),
    ...groupsOf(bench.design).flatMap((group) => [...group.columns]),
  ].flatMap((question) => (question.kind === 'lookup' ? [question] : []));
  if (lookups.length === 0) return null;
  return (
    <>
      <h3 className="mb-1 font-sans text-[15px]">{speak`What everybody who fills it can look up`}</h3>
      <ul className="mb-3 grid gap-1 text-[14px]">
        {lookups.map((question) => {
          const table = bench.tables.get(question.table);
          const shown = (table?.columns ?? []).filter(
            ({ id }) => table?.title.includes(id) || question.show.includes(id),
          );
          return (
            <li
              key={question.id}
            >{speakIn`${shown.length === 0 ? speak`The number` : shown.map(({ label }) => label).join(', ')} of every record of ${(<strong>{table?.label ?? speak`a table that is not there`}</strong>)}, for ${question.label}`}</li>
          );
        })}
      </ul>
    </>
  );
}

/** A table that other forms fill is opened to one more on purpose, by somebody who designs it. */
function OneMoreWayIn({
  trouble,
  go,
  busy,
}: {
  trouble: Problem;
  go: (allow: readonly string[]) => Promise<void>;
  busy: boolean;
}) {
  const issues = trouble.issues ?? [];
  const ways = issues.filter(({ code }) => code === 'table-way-in' || code === 'table-written-beside');
  if (ways.length === 0 || ways.length < issues.length) return null;
  return (
    <button
      type="button"
      className="button mt-2"
      disabled={busy}
      onClick={() => void go(ways.map(({ path }) => String(path[1])))}
    >{speak`Release it all the same, and let it write there`}</button>
  );
}

const newestOf = ({ data }: Workbench) => data.releases[0];

/** What must be mended first, what a release changes, and the releases so far. */
export function ReleaseFace({ bench, goTo }: FaceProps) {
  const plan = usePlan(bench);
  const issues = [...bench.issues, ...(plan.ok ? [] : plan.error)];
  const who = useWho(`/api/forms/${bench.data.id}/who`);
  // Until it is there, it is not known what a first release would have to say.
  const isUntold = newestOf(bench) === undefined && who.data === undefined && !who.isError;
  const unsaid = who.data !== undefined && (wordsOf(who.data)['fill'] ?? []).length === 0;
  /** Somebody who has chosen who fills it, and not saved that yet, must not let everybody fill it. */
  const [choosing, setChoosing] = useState(false);
  const [note, setNote] = useState('');
  const release = useRelease(bench, unsaid, note);
  const newest = newestOf(bench);
  const nothing = newest !== undefined && !newest.edited && !bench.hasEdited;
  return (
    <div className="sheet-frame">
      <div className="py-3 pr-5 pl-[46px]">
        {issues.length > 0 && <Things bench={bench} issues={issues} goTo={goTo} />}
        {issues.length === 0 && (
          <>
            <h2 className="mb-1 flex items-center gap-2 text-lg">
              <CircleCheck size={19} aria-hidden className="text-lichen" />
              {nothing ? speak`Nothing to release` : speak`Ready to release`}
            </h2>
            <p className="mb-3 text-[14px]">
              {nothing
                ? speak`Release ${newest.number} holds everything that is designed here.`
                : speak`Colleagues fill the new release from then on. ${underWayWords(bench.data.underWay)}`}
            </p>
            {!nothing && <Different bench={bench} goTo={goTo} />}
            {plan.ok && plan.value.length > 0 && (
              <>
                <h3 className="mb-1 font-sans text-[15px]">{speak`What changes in the tables`}</h3>
                <PlannedChanges changes={plan.value} />
              </>
            )}
            <WorstCase bench={bench} />
            <ShownToAll bench={bench} />
            {!nothing && newest !== undefined && (
              <label className="mb-3 block text-[14px]">
                {speak`What is new, for whoever goes on with a draft`}
                <textarea
                  rows={2}
                  className="box"
                  maxLength={limits.word}
                  value={note}
                  onChange={(event) => setNote(event.target.value)}
                />
              </label>
            )}
            {!nothing && (
              <button
                type="button"
                className="button button-go"
                disabled={release.busy || choosing || isUntold}
                onClick={() => void release.go()}
              >
                <Rocket size={15} aria-hidden />
                {speakIn`Release ${(newest?.number ?? 0) + 1}${unsaid && speak` for everybody to fill`}`}
              </button>
            )}
            {!nothing && choosing && (
              <p
                role="status"
                className="quiet mt-2"
              >{speak`First save who may do what, or leave it as it was.`}</p>
            )}
            {nothing && (
              <a className="button" href={`/fill/${bench.data.key}`}>
                <ExternalLink size={15} aria-hidden />
                {speak`Fill it in`}
              </a>
            )}
          </>
        )}
        <div role="alert">
          {release.trouble !== null && (
            <div className="mt-3 rounded-md bg-rust-soft px-4 py-2 text-rust">
              <p className="font-semibold">{release.trouble.title}</p>
              {(release.trouble.issues ?? []).map(({ sentence }, i) => (
                <p key={i}>{sentence}.</p>
              ))}
              <OneMoreWayIn trouble={release.trouble} go={release.go} busy={release.busy} />
            </div>
          )}
        </div>
      </div>
      <aside id="margin" className="margin-pane" aria-label={speak`Who, and the releases so far`}>
        <Who
          path={`/api/forms/${bench.data.id}/who`}
          asked={formSentences()}
          onChoosing={setChoosing}
          unsaid={
            unsaid
              ? speak`The first release lets everybody fill it. To let only some of them, say who here.`
              : null
          }
        />
        <FromOutside form={bench.data.id} />
        <OpeningSettings bench={bench} />
        <Releases bench={bench} />
        <InAndOut bench={bench} />
      </aside>
    </div>
  );
}

const formSentences = spoken(
  () =>
    [
      { action: 'fill', does: speak`fill it` },
      { action: 'see-all', does: speak`see all that is sent` },
      { action: 'design', does: speak`design it` },
    ] as const,
);

/** What becomes of what has been begun. */
function underWayWords({ drafts, sent }: Workbench['data']['underWay']): string {
  const begun =
    drafts === 0
      ? ''
      : speak`${counted(drafts, 'draft')} that ${drafts === 1 ? speak`was` : speak`were`} begun may go on with it, where the answers fit. `;
  const going =
    sent === 0
      ? speak`What is sent by then finishes on the release it began with.`
      : speak`${digits(sent)} on ${sent === 1 ? speak`its` : speak`their`} way ${sent === 1 ? speak`finishes` : speak`finish`} on the release ${sent === 1 ? speak`it` : speak`they`} began with.`;
  return `${begun}${going}`;
}

function useRelease(bench: Workbench, unsaid: boolean, note: string) {
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<Problem | null>(null);
  const go = async (allow: readonly string[] = []) => {
    setBusy(true);
    setTrouble(null);
    try {
      if (!(await bench.keep())) return;
      const result = await call<{ number: number }>('POST', `/api/forms/${bench.data.id}/release`, {
        version: bench.keeper.version,
        allow,
        // What the button says.
        ...(unsaid && { fill: 'everybody' }),
        ...(note.trim() !== '' && { note }),
      });
      if (result.ok) return location.reload();
      setTrouble(result.error);
    } catch (error) {
      setTrouble({
        type: '',
        status: 0,
        code: 'fault',
        title:
          error instanceof Error ? error.message : speak`The server cannot be reached; nothing was released`,
      });
    } finally {
      setBusy(false);
    }
  };
  return { busy, trouble, go };
}
