import { outerOf, questionsOf, type FormDesign, type Question, type Use } from './design';

/** Whether the answer stays as the record has it when a record is changed. */
export const isFixedOnChange = ({ onChange }: Question): boolean => onChange !== undefined;

/**
 * A design as it is filled in one use. What is not asked in a new sheet is never asked; what is not to be
 * changed need not be filled either, for nobody could; and what is required in the other use alone is not in
 * this one.
 */
export const designFor = (design: FormDesign, use: Use): FormDesign =>
  questionsOf(design).some(differs)
    ? {
        ...design,
        sections: design.sections.map((section) => ({
          ...section,
          questions: section.questions.map((one) =>
            questionFor(one, use, isFixedOnChange(outerOf(design, one) ?? one)),
          ),
        })),
      }
    : design;

const differs = (question: Question): boolean =>
  question.onNew !== undefined ||
  question.onChange !== undefined ||
  question.requiredFor !== undefined ||
  (question.kind === 'rows' && question.columns.some(differs));

/** `inFixed`: it stands in rows that are not to be changed. */
function questionFor<Q extends Question>(question: Q, use: Use, inFixed = false): Q {
  const fixed = use === 'change' && (inFixed || isFixedOnChange(question));
  const eased = fixed || (question.requiredFor !== undefined && question.requiredFor !== use);
  const { requireWhen, ...rest } = question;
  return {
    ...rest,
    ...(eased ? { required: false } : requireWhen !== undefined && { requireWhen }),
    ...(use === 'new' && question.onNew === 'hidden' && { askWhen: 'false' }),
    ...(question.kind === 'rows' && {
      columns: question.columns.map((column) => questionFor(column, use)),
      ...(fixed && { least: 0 }),
    }),
  } as Q;
}
