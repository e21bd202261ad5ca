import { useState } from 'react';
import { askedFor, needed } from '../../core/approval/path';
import { stepsFor, whyAsked } from '../../core/approval/whom';
import { toShown } from '../../core/expression/stored-text';
import { rulesIn, type ApprovalStep } from '../../core/form/design';
import { rulesFor } from '../../core/rules/ruled-steps';
import { askedWords, stepLetters, whyAskedWords } from '../../core/wording/step-sentence';
import { Route } from '../kit/icons';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import type { Workbench } from './use-workbench';
import { directoryOf } from './whom-choices';

/** Whom the steps would ask, for any sender. */
export function WhoWouldBeAsked({ bench }: { bench: Workbench }) {
  const { design, data } = bench;
  const letters = stepLetters(design.steps);
  const [sender, setSender] = useState(data.people[0]?.id ?? '');
  return (
    <section className="margin-part first">
      <h2 className="margin-title">
        <Route size={16} aria-hidden />
        Who would be asked
      </h2>
      <Sentence>
        when{' '}
        <Select
          label="Sender of the example"
          value={sender}
          choices={data.people.map((one) => ({ value: one.id, label: one.name }))}
          onChange={setSender}
        />{' '}
        sends it
      </Sentence>
      <ol className="grid gap-2 text-[14px]">
        {stepsFor(design, sender, directoryOf(bench)).map((step, i) => (
          <li key={step.id} className="flex gap-2">
            <span
              aria-hidden
              className="grid size-5 shrink-0 place-items-center rounded-full bg-lichen text-[12px] font-bold text-white"
            >
              {letters[i]}
            </span>
            <span>
              <strong>{step.label}</strong>
              {step.when !== undefined && <span className="quiet"> where its condition is true</span>}
              <AskedOf step={step} sender={sender} bench={bench} />
            </span>
          </li>
        ))}
        {design.steps.length === 0 && (
          <li className="quiet">Nobody; the rows are kept as soon as it is sent.</li>
        )}
      </ol>
    </section>
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
    const fallback = step.fallback === undefined ? '' : `; where they do not say, ${name(step.fallback)}`;
    return <span className="block">{`whom the rules “${rules.label}” say${fallback}`}</span>;
  }
  const whoever = [
    ...(step.role === undefined
      ? []
      : [
          `whoever of ${groupLabel(step.role.group)} is at the place in ${toShown(step.role.at, bench.scope()) || 'an answer'}`,
        ]),
    ...(step.named === undefined ? [] : [`whoever is in ${toShown(step.named, bench.scope())}`]),
  ];
  if (whoever.length > 0) {
    const others = step.people.filter((id) => id !== sender).map(name);
    const fallback = step.fallback === undefined ? '' : `; where that is nobody, ${name(step.fallback)}`;
    return <span className="block">{askedWords(step, [...whoever, ...others]) + fallback}</span>;
  }
  if (asked.length === 0)
    return (
      <span className="block text-rust">
        Nobody could be asked: there is nobody, or it is the sender. Name somebody besides.
      </span>
    );
  if (asked.length < must && step.people.length > 0)
    return (
      <span className="block text-rust">
        Only {asked.map(name).join(', ')}: nobody approves their own, and {must} must approve. Name one more.
      </span>
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
