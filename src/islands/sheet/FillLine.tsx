import { memo } from 'react';
import type { SheetData } from '../../contract/sheet-from-server';
import {
  isField,
  isTyped,
  pickedColumn,
  type FieldQuestion,
  type Question,
  type RowsQuestion,
} from '../../core/form/design';
import { type Line } from '../../core/form/numbered-lines';
import { shown } from '../../core/form/cells';
import { begunBy } from '../../core/form/lookup-filter';
import { isFixedOnChange } from '../../core/form/use';
import { textsOf } from '../../core/table/kinds/stored-list';
import { FileTiles } from '../kit/FileTile';
import { Control } from './Control';
import { FixedTextView } from '../kit/FixedTextView';
import { Asterisk } from './Asterisk';
import { headingOf } from './headings';
import { RowsView } from './RowsView';
import { PicksView } from './PicksView';
import { RowsShown } from './RowsShown';
import { StartingRows } from './StartingRows';
import { controlId } from './sheet-model';
import { Troubles, troubleId } from './Troubles';
import { useCells } from './use-cells';
import { sameIssues, type Filling, type Hand, type ShownIssue } from './use-fill';
import { speak } from '../../core/wording/speak';

/** One numbered line of a sheet that is being filled. */
export function FillLine({ line, fill }: { line: Line; fill: Filling }) {
  return (
    <div className="line">
      <span className="gutter" aria-hidden>
        {line.number}
      </span>
      <div className={`grid grid-cols-1 gap-x-4.5 gap-y-2 ${line.half === true ? '' : 'sm:grid-cols-2'}`}>
        {line.questions.map((question) => (
          <div
            key={question.id}
            className={
              !isField(question) ||
              (line.questions.length === 1 &&
                ((question.kind === 'text' && question.long) || question.kind === 'files'))
                ? 'min-w-0 sm:col-span-2'
                : 'min-w-0'
            }
          >
            {question.kind === 'rows' ? (
              <GroupView group={question} fill={fill} />
            ) : question.kind === 'fixed-text' ? (
              <FixedTextView question={question} />
            ) : (
              <AnswerView
                question={question}
                hand={fill.hand}
                isFixed={isFixedIn(fill.data, question)}
                troubles={fill.shownAt([question.id])}
              />
            )}
          </div>
        ))}
      </div>
    </div>
  );
}

/** What stands above an answer, or above rows of them. */
function Asked({ question, isRequired }: { question: FieldQuestion | RowsQuestion; isRequired: boolean }) {
  return (
    <>
      <p className="mb-1 font-semibold">
        {question.kind === 'rows' ? question.label : headingOf(question)}
        {isRequired && (question.kind === 'rows' || isTyped(question)) && <Asterisk />}
      </p>
      {question.hint !== '' && <p className="quiet mb-1">{question.hint}</p>}
    </>
  );
}

/** Whether it stands there to be read: it is not to be changed in a record that is there. */
const isFixedIn = ({ record }: SheetData, question: Question): boolean =>
  record !== null && isFixedOnChange(question);

function GroupView({ group, fill }: { group: RowsQuestion; fill: Filling }) {
  const { sheet, data } = fill;
  const [picks, begun] = [pickedColumn(group), begunBy(group)];
  return (
    <div role="group" aria-label={group.label}>
      <Asked question={group} isRequired={sheet.isRequired([group.id])} />
      {isFixedIn(data, group) ? (
        <RowsShown
          group={group}
          review={{ data, sheet, before: null, changes: null, stood: fill.record.stood }}
        />
      ) : (
        <>
          {begun !== null && data.record === null && (
            <StartingRows group={group} lookup={begun.lookup} fill={fill} />
          )}
          {picks === null ? (
            <RowsView group={group} fill={fill} />
          ) : (
            <PicksView group={group} column={picks} fill={fill} />
          )}
        </>
      )}
      <Troubles issues={fill.shownAt([group.id])} />
    </div>
  );
}

interface AnswerProps {
  readonly question: FieldQuestion;
  readonly hand: Hand;
  readonly isFixed: boolean;
  readonly troubles: readonly ShownIssue[];
}

const AnswerView = memo(
  function AnswerView({ question, hand, isFixed, troubles }: AnswerProps) {
    const { sheet } = hand;
    const place = [question.id] as const;
    useCells(sheet, [place]);
    return (
      <div role="group" aria-label={question.label}>
        <Asked question={question} isRequired={sheet.isRequired(place)} />
        {isFixed && question.kind === 'files' ? (
          <FileTiles ids={textsOf(sheet.value(place))} name={question.label} />
        ) : isTyped(question) && !isFixed ? (
          <Control
            question={question}
            place={place}
            sheet={sheet}
            formId={hand.formId}
            submission={hand.submission}
            tables={hand.model.tables}
            name={headingOf(question)}
            invalid={troubles.length > 0}
            describedBy={troubles.length > 0 ? troubleId(place) : undefined}
            onChange={hand.changed}
            onTouch={() => hand.touch(place)}
            device={hand.device}
            onComing={hand.coming}
          />
        ) : (
          <output id={controlId(place)} className="calculated-value tabular">
            <span>{shown(question, sheet.value(place)) || '—'}</span>
            <span className="quiet">
              {isFixed
                ? speak`not changed here`
                : question.kind === 'calculated'
                  ? speak`calculated`
                  : speak`from the record`}
            </span>
          </output>
        )}
        <Troubles issues={troubles} />
      </div>
    );
  },
  (was, is) => was.question === is.question && was.hand === is.hand && sameIssues(was.troubles, is.troubles),
);
