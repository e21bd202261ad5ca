import { kinds } from '../table/kinds/list';
import type { Kind } from '../table/kinds/kind';
import type { ColumnKind } from '../table/model';
import type { CalculatedQuestion, FieldQuestion } from './design';

/** The kind of column an answer is kept in. */
export function columnKindOf(question: FieldQuestion): ColumnKind {
  switch (question.kind) {
    case 'calculated':
      return calculatedKind(question);
    case 'lookup':
      return 'reference';
    case 'confirmation':
      return 'yes-no';
    default:
      return question.kind;
  }
}

/** The kind of column a calculated value is kept in. */
export const calculatedKind = ({ gives = 'number' }: CalculatedQuestion): ColumnKind =>
  gives === 'number' ? 'decimal' : gives;

/** How an answer is read, shown and written. */
export const kindOf = (question: FieldQuestion): Kind => kinds[columnKindOf(question)];
