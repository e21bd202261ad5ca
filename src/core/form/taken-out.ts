import type { Check } from '../check/check';
import { allQuestions, type FormDesign, type Question } from './design';

/** What a release had and the design has no more: questions and columns, and the checks that stood at them. */
export interface TakenOut {
  readonly questions: readonly Question[];
  readonly checks: readonly Check[];
}

export function takenOut(released: FormDesign, design: FormDesign): TakenOut {
  const there = new Set(allQuestions(design).map(({ id }) => id));
  const questions = allQuestions(released).filter(({ id }) => !there.has(id));
  const gone = new Set(questions.map(({ id }) => id));
  const checks = new Set(design.checks.map(({ id }) => id));
  return { questions, checks: released.checks.filter(({ id, on }) => gone.has(on) && !checks.has(id)) };
}
