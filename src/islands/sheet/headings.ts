import { columnKindOf } from '../../core/form/column-kind';
import type { FieldQuestion } from '../../core/form/design';

/** Stands at the right of its column. */
export const isNumeric = (question: FieldQuestion): boolean =>
  ['whole', 'decimal', 'money'].includes(columnKindOf(question));
export const headingOf = (question: { label: string; unit?: string }): string =>
  question.unit ? `${question.label}, ${question.unit}` : question.label;
