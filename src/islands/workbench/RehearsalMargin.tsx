import { useState, type ReactNode } from 'react';
import type { Rehearsed } from '../../core/form/rehearsed';
import { checkOutcomes, type Outcome } from '../../core/check/outcomes';
import type { Scope } from '../../core/expression/type';
import { groupsOf } from '../../core/form/design';
import { counted } from '../../core/wording/numbers';
import { ConditionWords } from '../kit/CheckWords';
import { CircleCheck, CircleHelp, CircleX, ListChecks, MessageSquareWarning, Route } from '../kit/icons';
import { goTo } from '../sheet/sheet-model';
import { ToFix } from '../sheet/ToFix';
import type { Filling } from '../sheet/use-fill';
import { AskedSteps } from './AskedSteps';
import type { Workbench } from './use-workbench';
import { speak, spoken } from '../../core/wording/speak';

interface Props {
  readonly bench: Workbench;
  readonly fill: Filling;
  readonly told: Rehearsed | null;
}

interface MarginProps extends Props {
  readonly children: ReactNode;
}

/** What fired and why, what is still missing, and who would be asked. */
export function RehearsalMargin({ bench, fill, told, children }: MarginProps) {
  return (
    <aside id="margin" className="margin-pane" aria-label={speak`What the rehearsal shows`}>
      <Fired bench={bench} fill={fill} />
      <Missing fill={fill} told={told} />
      <WouldBeAsked bench={bench} told={told} />
      {children}
    </aside>
  );
}

function Fired({ bench, fill }: Pick<Props, 'bench' | 'fill'>) {
  const [all, setAll] = useState(false);
  const outcomes = checkOutcomes(fill.sheet);
  const [told, open] = [
    outcomes.filter(({ came }) => came !== 'open' && came !== 'unasked'),
    outcomes.filter(({ came }) => came === 'open'),
  ];
  const fired = told.filter(({ came }) => came !== 'holds');
  return (
    <section className="margin-part first" aria-labelledby="fired">
      <h2 id="fired" className="margin-title text-ink!">
        <ListChecks size={16} aria-hidden />
        {speak`What fired`}
      </h2>
      <p className="flex items-center gap-2 text-[14px]" role="status">
        {fired.length === 0 && open.length < outcomes.length ? (
          <CircleCheck size={16} aria-hidden className="shrink-0 text-lichen" />
        ) : (
          <CircleHelp
            size={16}
            aria-hidden
            className={`shrink-0 ${fired.length === 0 ? 'text-slate-600' : 'text-ochre'}`}
          />
        )}
        {firedWords(outcomes.length, told.length - fired.length, open.length)}
      </p>
      <ul className="mt-1.5 grid gap-2">
        {(all ? outcomes : fired).map((one) => (
          <OutcomeLine
            key={`${one.check.id}${one.row ?? ''}`}
            one={one}
            number={bench.numbers.get(one.check.on) ?? ''}
            scope={bench.scope(groupAt(bench, one))}
          />
        ))}
      </ul>
      {outcomes.length > fired.length && (
        <button
          type="button"
          className="button-plain mt-1.5"
          aria-expanded={all}
          onClick={() => setAll(!all)}
        >
          {all
            ? speak`Only those that fired`
            : open.length > 0
              ? speak`Show the others as well`
              : fired.length === 0
                ? speak`Why did they hold?`
                : speak`Why did the others hold?`}
        </button>
      )}
    </section>
  );
}

const groupAt = ({ design }: Workbench, { place }: Outcome) =>
  place.length === 3 ? groupsOf(design).find(({ id }) => id === place[0]) : undefined;

function firedWords(all: number, hold: number, open: number): string {
  if (all === 0) return speak`This form has no checks.`;
  if (open === all)
    return all === 1 ? speak`Its check cannot be told yet` : speak`None of its checks can be told yet`;
  const rest = open === 0 ? '' : speak`; ${open} cannot be told yet`;
  return hold === all
    ? `${all === 1 ? speak`Its check holds` : speak`All ${all} checks hold`}`
    : speak`${hold} of ${counted(all, 'check')} ${hold === 1 || all === 1 ? speak`holds` : speak`hold`}${rest}`;
}

const cameWords = spoken((): Readonly<Record<Outcome['came'], string>> => ({
  holds: speak`Holds`,
  stops: speak`Stops`,
  asks: speak`Asks for a reason`,
  open: speak`Cannot be told yet`,
  unasked: speak`Is not asked`,
}));

const fires = ({ came }: Outcome): boolean => came === 'stops' || came === 'asks';

function OutcomeLine({ one, number, scope }: { one: Outcome; number: string; scope: Scope }) {
  const Icon = {
    holds: CircleCheck,
    stops: CircleX,
    asks: MessageSquareWarning,
    open: CircleHelp,
    unasked: CircleHelp,
  }[one.came];
  const tone = {
    holds: 'text-lichen',
    stops: 'text-rust',
    asks: 'text-ochre',
    open: 'text-slate-600',
    unasked: 'text-slate-600',
  }[one.came];
  return (
    <li className="flex gap-2 text-[14px]">
      <Icon size={16} aria-hidden className={`mt-0.5 shrink-0 ${tone}`} />
      <span className="min-w-0">
        <button
          type="button"
          onClick={() => goTo(one.place)}
          className="rounded text-left break-words hover:underline"
        >
          <span className="font-mono text-[13px] font-semibold">
            {number}
            {one.row}
          </span>{' '}
          {cameWords()[one.came]}:{' '}
          {fires(one) ? one.check.message : <ConditionWords must={one.check.must} scope={scope} />}
        </button>
        {one.why !== '' && <span className="quiet block font-mono break-words">{one.why}</span>}
      </span>
    </li>
  );
}

/** What a colleague would have to fill or fix before it can be sent, beside the checks. */
function Missing({ fill, told }: Pick<Props, 'fill' | 'told'>) {
  const own = fill.issues.filter(({ code }) => code !== 'check-stops' && code !== 'reason-needed');
  const seen = new Set(fill.issues.map(({ path, code }) => `${path.join('/')} ${code}`));
  const more = (told?.issues ?? []).filter(
    ({ path, code }) => !seen.has(`${path.join('/')} ${code}`) && code !== 'reason-needed',
  );
  if (own.length + more.length === 0) return null;
  return (
    <section className="margin-part" aria-labelledby="missing">
      <h2 id="missing" className="margin-title">
        <CircleX size={16} aria-hidden />
        {speak`${counted(own.length + more.length, 'thing')} to fix before it can be sent`}
      </h2>
      <ul className="grid gap-1">
        <ToFix issues={own} />
        {more.map(({ sentence, path }) => (
          <li key={`${path.join('/')} ${sentence}`} className="text-[14px] text-rust">
            {sentence}
          </li>
        ))}
      </ul>
    </section>
  );
}

function WouldBeAsked({ bench, told }: Pick<Props, 'bench' | 'told'>) {
  const name = bench.data.people.find(({ id }) => id === bench.rehearsal.as)?.name ?? '';
  return (
    <section className="margin-part" aria-labelledby="asked">
      <h2 id="asked" className="margin-title">
        <Route size={16} aria-hidden />
        {speak`Who would be asked`}
      </h2>
      {told?.mayFill === false && (
        <p className="mb-2 text-[14px] font-semibold text-ochre">{speak`${name} may not fill this form; see Release, who may do what.`}</p>
      )}
      {told?.steps.length === 0 && (
        <p className="quiet">{speak`Nobody; it is kept as soon as it is sent.`}</p>
      )}
      <AskedSteps bench={bench} steps={told?.steps ?? []} />
    </section>
  );
}
