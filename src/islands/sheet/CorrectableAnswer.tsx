import type { Value } from '../../core/expression/value';
import type { Place } from '../../core/form/cells';
import { lazy, Suspense } from 'react';
import { isTyped, type FieldQuestion } from '../../core/form/design';
import { AnswerShown } from './AnswerShown';
import type { ShownSheet } from './reviewing';

// Whoever only looks needs none of it.
const Control = lazy(() => import('./Control').then((module) => ({ default: module.Control })));

interface Props {
  readonly question: FieldQuestion;
  readonly place: Place;
  readonly review: ShownSheet;
  readonly value: Value;
  readonly before: Value | undefined;
  /** What it is called where several are the same: with its row. */
  readonly name: string;
}

/** An answer to look at, or to put right where whoever decides may. */
export function CorrectableAnswer({ question, place, review, value, before, name }: Props) {
  const { correcting, data } = review;
  const shown = <AnswerShown question={question} value={value} before={before} />;
  if (correcting?.corrects.has(question.id) !== true || !isTyped(question)) return shown;
  return (
    <Suspense fallback={shown}>
      <Control
        question={question}
        place={place}
        sheet={correcting.sheet}
        formId={data.formId}
        submission={data.submission?.id ?? null}
        tables={correcting.model.tables}
        name={name}
        invalid={correcting.sheet.fault(place) !== null}
        describedBy={undefined}
        onChange={nothing}
        onTouch={() => correcting.sheet.pause()}
        device={NO_DEVICE}
        onComing={nothing}
      />
      {before !== undefined && <span className="block text-[14px]">{shown}</span>}
    </Suspense>
  );
}

const nothing = (): void => undefined;
/** Files are nobody's to correct, so none is kept on the device. */
const NO_DEVICE = { draft: '', key: '' };
