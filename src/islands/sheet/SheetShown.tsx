import { MessageSquareWarning } from '../kit/icons';
import { reasonsAsked } from '../../core/check/sheet-issues';
import type { Value } from '../../core/expression/value';
import { groupsOf, isField, type FieldQuestion, type FilesQuestion } from '../../core/form/design';
import { lineNumbers, type Line } from '../../core/form/numbered-lines';
import { shown } from '../../core/form/cells';
import { CorrectableAnswer } from './CorrectableAnswer';
import { RowsShown } from './RowsShown';
import { headingOf } from './headings';
import { FixedTextView } from '../kit/FixedTextView';
import { RemarksAt } from './RemarksAt';
import { controlId } from './sheet-model';
import { SheetSections } from './SheetSections';
import type { ShownSheet } from './reviewing';
import { textsOf } from '../../core/table/kinds/stored-list';
import { FileTiles } from '../kit/FileTile';
import { speak } from '../../core/wording/speak';

/** A sheet to look at: its sections and lines, with what was there before where it is otherwise. */
export function SheetShown({ review }: { review: ShownSheet }) {
  const { data, sheet } = review;
  return (
    <>
      <SheetSections
        data={data}
        sheet={sheet}
        line={(line) => <ShownLine key={line.id} line={line} review={review} />}
      />
      <ReasonsGiven review={review} />
    </>
  );
}

function ShownLine({ line, review }: { line: Line; review: ShownSheet }) {
  return (
    <div className="line" id={controlId([line.id])} tabIndex={-1}>
      <span className="gutter" aria-hidden>
        {line.number}
      </span>
      <div className={`grid grid-cols-1 gap-x-4.5 gap-y-2 ${line.half === true ? '' : 'sm:grid-cols-2'}`}>
        {line.questions.map((question) => (
          <div key={question.id} className={isField(question) ? 'min-w-0' : 'min-w-0 sm:col-span-2'}>
            {question.kind !== 'fixed-text' && (
              <p className="quiet">{isField(question) ? headingOf(question) : question.label}</p>
            )}
            {question.kind === 'fixed-text' ? (
              <FixedTextView question={question} />
            ) : question.kind === 'rows' ? (
              <RowsShown group={question} review={review} />
            ) : question.kind === 'files' ? (
              <FilesShown question={question} review={review} />
            ) : (
              <div className="break-words whitespace-pre-wrap">
                <CorrectableAnswer
                  question={question}
                  place={[question.id]}
                  review={review}
                  value={review.sheet.value([question.id])}
                  before={beforeOf(question, review)}
                  name={question.label}
                />
              </div>
            )}
          </div>
        ))}
        <div className="min-w-0 empty:hidden sm:col-span-2">
          <RemarksAt review={review} questions={line.questions.map(({ id }) => id)} />
        </div>
      </div>
    </div>
  );
}

/** The files of an answer as they are now; that there were others before is said. */
function FilesShown({ question, review }: { question: FilesQuestion; review: ShownSheet }) {
  const ids = textsOf(review.sheet.value([question.id]));
  const before = review.before === null ? null : textsOf(review.before.value([question.id]));
  return (
    <>
      {ids.length === 0 ? '—' : <FileTiles ids={ids} name={question.label} />}
      {before !== null && before.join() !== ids.join() && (
        <p className="mt-1">
          <mark className="marked text-ink">{speak`changed`}</mark>{' '}
          <span className="quiet">
            {before.length === 0 ? speak`there were none before` : speak`there were ${before.length} before`}
          </span>
        </p>
      )}
    </>
  );
}

/** The earlier value, where it reads differently; undefined where nothing changed. */
function beforeOf(question: FieldQuestion, { before, sheet }: ShownSheet): Value | undefined {
  if (before === null) return undefined;
  const old = before.value([question.id]);
  return shown(question, old) === shown(question, sheet.value([question.id])) ? undefined : old;
}

function ReasonsGiven({ review: { sheet, data, stood } }: { review: ShownSheet }) {
  const numbers = lineNumbers(data.design);
  const names = new Map(
    groupsOf(data.design).flatMap((group) => group.columns.map(({ id, label }) => [id, label])),
  );
  return (
    <>
      {reasonsAsked(sheet, stood).map((check) => (
        <div key={check.id} className="line bg-ochre-soft">
          <span className="gutter">{numbers.get(check.on)}</span>
          <div>
            <p className="flex items-center gap-2 text-[15px]">
              <MessageSquareWarning size={16} aria-hidden className="text-ochre" />
              <strong className="text-ochre">{speak`Reason given`}</strong> · “{check.message}”
              {names.get(check.on) && ` (${names.get(check.on)})`}
            </p>
            <p className="break-words">{sheet.reason(check.id)}</p>
          </div>
        </div>
      ))}
    </>
  );
}
