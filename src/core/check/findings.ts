import type { Expression } from '../expression/tree';
import { nodesOf } from '../expression/tree';
import type { CompiledForm } from '../form/compile-form';
import type { Check } from './check';
import { messageWithout } from './message';
import { questionsOf, type Question } from '../form/design';
import type { Formula } from '../form/formula';
import { issue, type Issue } from '../kernel/issue';
import { both, casesFalse, casesTrue, type Cases } from './cases';
import { canHold, type Domains } from './constraints';

/** Pairs of checks that are held against each other; beyond, a design is reported on what it has so far. */
const MOST_PAIRS = 2_000;

/**
 * What can be known of a form before anybody fills it: checks that exclude each other, conditions nothing can fulfil, answers required but
 * never asked, checks never reached. Only what is certain is said. Paths are those of `compileForm`.
 */
export function findings(form: CompiledForm): Issue[] {
  const known = knowledgeOf(form);
  return [
    ...form.formulas.flatMap((formula) => impossibleDates(formula)),
    ...conditionFindings(form, known),
    ...checkFindings(form, known),
  ];
}

interface Knowledge {
  readonly domains: Domains;
  readonly wholes: ReadonlySet<string>;
  /** Whether this can be true, as far as anybody can tell. */
  possible(cases: Cases | null): boolean;
  /** What must be true for a question to be asked. */
  asked(id: string): Cases | null;
}

function knowledgeOf(form: CompiledForm): Knowledge {
  const choices = new Map<string, readonly string[]>();
  const wholes = new Set<string>();
  for (const { question } of form.fields.values()) {
    // Stored text is read by id, so paths are ids.
    if (question.kind === 'choice')
      choices.set(
        question.id,
        question.choices.map(({ code }) => code),
      );
    if (question.kind === 'whole') wholes.add(question.id);
  }
  const formulas = new Map(form.formulas.map((formula) => [formula.id, formula]));
  const asked = (id: string): Cases | null =>
    (form.conditions.get(id) ?? []).reduce<Cases | null>(
      (all, one) => {
        const tree = formulas.get(one)?.tree;
        return tree == null ? all : both(all, casesTrue(tree, wholes));
      },
      [[]],
    );
  return {
    domains: choices,
    wholes,
    possible: (cases) => cases === null || cases.some((one) => canHold(one, choices)),
    asked,
  };
}

/** `date("2026-02-30")` is a date by its type and never one by its value. */
function impossibleDates({ tree, what, id }: Formula): Issue[] {
  if (tree === null) return [];
  const path =
    what.t === 'check'
      ? ['checks', id]
      : what.t === 'asked' || what.t === 'required'
        ? [what.of.id]
        : what.t === 'fits'
          ? [what.question.id]
          : [id];
  return [...nodesOf(tree)]
    .filter(isImpossible)
    .map(({ span }) => issue('not-a-date', path, { from: span.from, to: span.to }));
}

const isImpossible = (tree: Expression): boolean =>
  tree.op === 'literal' && tree.value === null && tree.type.t !== 'null';

function conditionFindings(form: CompiledForm, known: Knowledge): Issue[] {
  const sections = form.design.sections.flatMap((section) =>
    section.showWhen !== undefined && isNever(form, section, known)
      ? [issue('condition-never', [section.id, 'showWhen'], { label: section.title })]
      : [],
  );
  const own = questionsOf(form.design).flatMap((question) => [
    question,
    ...(question.kind === 'rows' ? question.columns : []),
  ]);
  const steps = form.design.steps.flatMap((step) =>
    step.when !== undefined && isNever(form, step, known)
      ? [issue('condition-never', ['steps', step.id, 'when'], { label: step.label })]
      : [],
  );
  return [...sections, ...steps, ...own.flatMap((question) => questionFindings(form, question, known))];
}

const formulaOf = (form: CompiledForm, id: string): Expression | null =>
  form.formulas.find((one) => one.id === id)?.tree ?? null;
const isNever = (form: CompiledForm, { id }: { readonly id: string }, known: Knowledge): boolean => {
  const tree = formulaOf(form, `${id}:asked`);
  return tree !== null && !known.possible(casesTrue(tree, known.wholes));
};

function questionFindings(form: CompiledForm, question: Question, known: Knowledge): Issue[] {
  const found: Issue[] = [];
  const facts = { label: question.label };
  const never = !known.possible(known.asked(question.id));
  if (never && question.required) found.push(issue('required-never-asked', [question.id, 'askWhen'], facts));
  else if (never && question.askWhen !== undefined)
    found.push(issue('condition-never', [question.id, 'askWhen'], facts));
  const required = question.requireWhen === undefined ? null : formulaOf(form, `${question.id}:require`);
  if (required !== null && !known.possible(both(known.asked(question.id), casesTrue(required, known.wholes))))
    found.push(issue('condition-never', [question.id, 'requireWhen'], facts));
  return found;
}

interface Weighed {
  readonly check: Check;
  readonly holds: Cases | null;
  readonly reached: Cases | null;
}

function checkFindings(form: CompiledForm, known: Knowledge): Issue[] {
  const weighed = form.checks.flatMap((check): Weighed[] => {
    const tree = formulaOf(form, check.id);
    return tree === null
      ? []
      : [
          {
            check,
            holds: casesTrue(tree, known.wholes),
            reached: both(known.asked(check.on), casesFalse(tree, known.wholes)),
          },
        ];
  });
  const alone = weighed.flatMap(({ check, holds, reached }) => {
    if (!known.possible(holds)) return [issue('check-never-holds', ['checks', check.id], {})];
    return known.possible(reached) ? [] : [issue('check-never-reached', ['checks', check.id], {})];
  });
  return [
    ...alone,
    ...contradictions(
      weighed.filter(({ holds }) => known.possible(holds)),
      known,
    ),
  ];
}

/** Reported at the later of the two, naming the earlier. */
function contradictions(weighed: readonly Weighed[], known: Knowledge): Issue[] {
  const found: Issue[] = [];
  let pairs = 0;
  for (const [i, one] of weighed.entries())
    for (const other of weighed.slice(i + 1)) {
      if (++pairs > MOST_PAIRS) return found;
      if (!known.possible(both(one.holds, other.holds)))
        found.push(
          issue('checks-contradict', ['checks', other.check.id], {
            other: messageWithout(one.check.message),
          }),
        );
    }
  return found;
}
