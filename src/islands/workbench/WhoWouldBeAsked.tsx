import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { askedFor, needed } from '../../core/approval/path';
import { stepsFor, whyAsked } from '../../core/approval/whom';
import { toShown } from '../../core/expression/stored-text';
import { rulesIn, type ApprovalStep } from '../../core/form/design';
import { rulesFor } from '../../core/rules/ruled-steps';
import { askedWords, stepLetters, whyAskedWords } from '../../core/wording/step-sentence';
import { WakesLater } from '../kit/Awake';
import { Route } from '../kit/icons';
import { personChoices } from '../kit/person-choices';
import { Select, type Choice } from '../kit/Select';
import { AskedSteps, StepMark } from './AskedSteps';
import { rehearsed } from './begin-rehearsal';
import { RehearsalDay } from './RehearsalDay';
import { momentOf } from './rehearsal-setting';
import { NO_ANSWERS, REHEARSED, useExample, type Example } from './use-example';
import { useSettled } from './use-settled';
import type { Workbench } from './use-workbench';
import { directoryOf } from './whom-choices';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Whom the steps would ask, for any sender: about the answers of something that was sent, on any day, or whatever the answers are. */
export function WhoWouldBeAsked({ bench }: { bench: Workbench }) {
  const example = useExample(bench);
  const { rehearsal, setRehearsal, data, design } = bench;
  // What is wrong with the design, or an example that cannot be opened, leaves what holds for any answers.
  const isOfAny = example.of === NO_ANSWERS || example.failed || bench.issues.length > 0;
  return (
    <section className="margin-part first" aria-labelledby="who-would-be">
      <h2 id="who-would-be" className="margin-title">
        <Route size={16} aria-hidden />
        {speak`Who would be asked`}
      </h2>
      {design.steps.length === 0 ? (
        <p className="quiet">{speak`Nobody; the rows are kept as soon as it is sent.`}</p>
      ) : (
        <>
          <div className="mb-2 flex flex-wrap items-center gap-x-1.5 gap-y-1">
            {speakIn`when ${(
              <Select
                label={speak`Sender of the example`}
                value={rehearsal.as}
                choices={personChoices(data.people)}
                onChange={(as) => setRehearsal({ ...rehearsal, as })}
              />
            )} sends ${(
              <Select
                label={speak`Answers of the example`}
                value={example.of}
                choices={example.choices.map(asAnswers)}
                onChange={example.pick}
              />
            )}`}
            {!isOfAny && <OnDay bench={bench} />}
          </div>
          {isOfAny ? <OfAnyAnswers bench={bench} /> : <OfExample bench={bench} example={example} />}
        </>
      )}
    </section>
  );
}

const asAnswers = (choice: Choice): Choice =>
  choice.value === NO_ANSWERS
    ? { value: NO_ANSWERS, label: speak`it, whatever the answers` }
    : choice.value === REHEARSED
      ? choice
      : {
          ...choice,
          label: speak`the answers of ${choice.label}`,
          short: speak`the answers of ${choice.short ?? ''}`,
        };

const loadCalendar = async (): Promise<void> => void (await import('../kit/Calendar'));

const OnDay = ({ bench: { rehearsal, setRehearsal } }: { bench: Workbench }) => (
  <>{speakIn`on ${(
    <WakesLater load={loadCalendar}>
      <RehearsalDay
        label={speak`Day of the example`}
        setting={rehearsal}
        set={(part) => setRehearsal({ ...rehearsal, ...part })}
      />
    </WakesLater>
  )}`}</>
);

/** After the last edit of the path: the server works it out. */
const ASK_AFTER_MS = 700;

/** As the server would ask about these answers. */
function OfExample({ bench, example: { sheet } }: { bench: Workbench; example: Example }) {
  const { data, design, rehearsal } = bench;
  const answers = sheet?.answers() ?? null;
  const settled = useSettled(design, ASK_AFTER_MS);
  const told = useQuery({
    queryKey: [
      'would-be-asked',
      data.id,
      settled,
      rehearsal.as,
      momentOf(rehearsal),
      JSON.stringify(answers),
    ],
    queryFn: async () => {
      await bench.keep();
      return answers === null ? null : rehearsed(bench, answers);
    },
    enabled: answers !== null,
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  });
  if (told.isError) return <p className="trouble">{told.error.message}</p>;
  if (told.data == null) return <div aria-hidden className="h-24 animate-pulse rounded bg-slate-100" />;
  return <AskedSteps bench={bench} steps={told.data.steps} />;
}

/** As it is designed: what depends on the answers is said in words. */
function OfAnyAnswers({ bench }: { bench: Workbench }) {
  const { design, rehearsal } = bench;
  const letters = stepLetters(design.steps);
  return (
    <ol className="grid gap-2 text-[14px]">
      {stepsFor(design, rehearsal.as, directoryOf(bench)).map((step, i) => (
        <StepMark key={step.id} letter={letters[i] ?? ''}>
          <strong>{step.label}</strong>
          {step.when !== undefined && <span className="quiet"> {speak`where its condition is true`}</span>}
          <AskedOf step={step} sender={rehearsal.as} bench={bench} />
        </StepMark>
      ))}
    </ol>
  );
}

/** Whom a step would ask, or why that is too few; whom the answers name is known when they are there. */
function AskedOf({ step, sender, bench }: { step: ApprovalStep; sender: string; bench: Workbench }) {
  const name = (id: string) => bench.data.people.find((one) => one.id === id)?.name ?? '';
  const groupLabel = (id: string) => bench.data.groups.find((one) => one.id === id)?.label ?? '';
  const asked = askedFor(step, sender);
  const must = needed(step, asked.length);
  const [rules] = rulesFor(rulesIn(bench.design), step.id);
  if (rules !== undefined) {
    const fallback =
      step.fallback === undefined ? '' : speak`; where they do not say, ${name(step.fallback)}`;
    return <span className="block">{speak`whom the rules “${rules.label}” say${fallback}`}</span>;
  }
  const whoever = [
    ...(step.role === undefined
      ? []
      : [
          speak`whoever of ${groupLabel(step.role.group)} is at the place in ${toShown(step.role.at, bench.scope()) || speak`an answer`}`,
        ]),
    ...(step.named === undefined ? [] : [speak`whoever is in ${toShown(step.named, bench.scope())}`]),
  ];
  if (whoever.length > 0) {
    const others = step.people.filter((id) => id !== sender).map(name);
    const fallback = step.fallback === undefined ? '' : speak`; where that is nobody, ${name(step.fallback)}`;
    return <span className="block">{askedWords(step, [...whoever, ...others]) + fallback}</span>;
  }
  if (asked.length === 0)
    return (
      <span className="block text-rust">{speak`Nobody could be asked: there is nobody, or it is the sender. Name somebody besides.`}</span>
    );
  if (asked.length < must && step.people.length > 0)
    return (
      <span className="block text-rust">{speak`Only ${asked.map(name).join(', ')}: nobody approves their own, and ${must} must approve. Name one more.`}</span>
    );
  const directory = directoryOf(bench);
  // As it is designed: whom it asks by name has no reason besides.
  const designed = bench.design.steps.find(({ id }) => id === step.id) ?? step;
  const withWhy = (id: string): string => {
    const found = whyAsked(designed, id, sender, directory, {});
    return found === null
      ? name(id)
      : `${name(id)} (${whyAskedWords(found.why, groupLabel(found.group ?? ''))})`;
  };
  return <span className="block">{askedWords(step, asked.map(withWhy))}</span>;
}
