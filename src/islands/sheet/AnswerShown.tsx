import type { Value } from '../../core/expression/value';
import { shown } from '../../core/form/cells';
import type { FieldQuestion } from '../../core/form/design';
import { speak } from '../../core/wording/speak';

/** An answer, with what stood there before where it is otherwise. */
export function AnswerShown({
  question,
  value,
  before,
}: {
  question: FieldQuestion;
  value: Value;
  before: Value | undefined;
}) {
  const now = shown(question, value) || '—';
  if (before === undefined)
    return <span className={question.kind === 'lookup' ? 'font-semibold' : ''}>{now}</span>;
  return (
    <>
      <span className="sr-only">{speak`changed to`} </span>
      <mark className="marked text-ink">{now}</mark>{' '}
      <s className="text-slate-600">
        <span className="sr-only">{speak`from`} </span>
        {shown(question, before) || speak`empty`}
      </s>
    </>
  );
}
