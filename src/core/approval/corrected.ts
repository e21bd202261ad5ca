import { isBlankRow, type Answers, type Raw } from '../form/answers';
import { isField, isTyped, questionsOf, type FieldQuestion, type FormDesign } from '../form/design';

/** Kinds that nobody corrects for somebody else: what is picked and what is brought is its sender's to find. */
const own: ReadonlySet<FieldQuestion['kind']> = new Set(['lookup', 'files', 'calculated']);

/** The answers that a step may be allowed to correct: what is typed or ticked, also in rows. */
export const correctable = (design: Pick<FormDesign, 'sections'>): FieldQuestion[] =>
  questionsOf(design as FormDesign).flatMap((question): FieldQuestion[] =>
    (question.kind === 'rows' ? question.columns : isField(question) ? [question] : []).filter(
      (one) => isTyped(one) && !own.has(one.kind),
    ),
  );

/** The questions a step may correct, by id; those that are gone, or have become of another kind, are not among them. */
export const correctsOf = (
  design: Pick<FormDesign, 'sections'>,
  { corrects = [] }: { readonly corrects?: readonly string[] | undefined },
): string[] =>
  corrects.length === 0
    ? []
    : correctable(design)
        .map(({ id }) => id)
        .filter((id) => corrects.includes(id));

/**
 * Answers with what somebody corrected: of what they typed, the answers that may be corrected, in the rows
 * there are. Rows neither come nor go. Reasons that are given for what is unusual now come along; those the
 * sender gave stay as they are.
 */
export function correctedAnswers(answers: Answers, typed: Answers, corrects: readonly string[]): Answers {
  const may = new Set(corrects);
  const taken = (
    before: Readonly<Record<string, Raw>>,
    after: Readonly<Record<string, Raw>>,
  ): Readonly<Record<string, Raw>> => ({
    ...before,
    ...Object.fromEntries(Object.entries(after).filter(([id]) => may.has(id))),
  });
  const typedRows = new Map(
    Object.entries(typed.rows).flatMap(([group, rows]) =>
      rows.map((row) => [`${group} ${row.id}`, row.cells] as const),
    ),
  );
  return {
    values: taken(answers.values, typed.values),
    rows: Object.fromEntries(
      Object.entries(answers.rows).map(([group, rows]) => [
        group,
        rows.map((row) => {
          const cells = taken(row.cells, typedRows.get(`${group} ${row.id}`) ?? {});
          // A row without anything in it is none, and taking one out is no correction.
          return isBlankRow({ ...row, cells }) ? row : { ...row, cells };
        }),
      ]),
    ),
    reasons: { ...typed.reasons, ...given(answers.reasons) },
  };
}

const given = (reasons: Answers['reasons']): Answers['reasons'] =>
  Object.fromEntries(Object.entries(reasons).filter(([, reason]) => reason.trim() !== ''));
