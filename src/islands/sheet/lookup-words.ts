import type { LookupQuestion } from '../../core/form/design';
import { isUuid } from '../../core/kernel/ids';
import type { ControlProps } from './control-props';
import { speak } from '../../core/wording/speak';

export type LookupControlProps = ControlProps & {
  readonly question: LookupQuestion;
  /** Records that are picked already, and not to be picked again. */
  readonly without?: ReadonlySet<string> | undefined;
};

/** A text that stands in a lookup without naming a record; an id of one that is gone says nothing to anybody. */
export const pastedText = (raw: unknown): string => (typeof raw === 'string' && !isUuid(raw) ? raw : '');

export const placeholderOf = ({ bare = false, tables, question }: LookupControlProps): string =>
  bare ? speak`Type to find` : speak`Pick from ${tables.get(question.table)?.label ?? speak`the list`}`;
