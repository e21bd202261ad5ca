import { lazy, memo, Suspense, useEffect, useMemo, useState, type ReactNode } from 'react';
import type { SheetData } from '../../contract/answers-from-server';
import {
  isField,
  isTyped,
  type FieldQuestion,
  type Line,
  type Question,
  type RowsQuestion,
} from '../../core/form/design';
import { shown } from '../../core/form/cells';
import { call } from '../kit/call';
import type { Keeping } from '../kit/keeper';
import { Root } from '../kit/Root';
import { Toasts } from '../kit/Toasts';
import { clock } from '../kit/when';
import { Control } from './Control';
import { FillMargin } from './FillMargin';
import { FixedTextView } from './FixedTextView';
import { Asterisk, headingOf, RowsView } from './RowsView';
import { AddMissing, type Missing } from './add-missing';
import { AfterWords } from './AfterWords';
import { Clashes } from './Clashes';
import { RowsShown } from './SheetShown';
import { titleOf, recordAddress } from './sheet-title';
import { isFixedOnChange } from '../../core/form/use';
import { textsOf } from '../../core/table/kinds/stored-list';
import { FileTiles } from '../kit/FileTile';
import { askedLines, controlId, shownLines } from './sheet-model';
import { Troubles, troubleId } from './Troubles';
import { useCells } from './use-cells';
import { sameIssues, useFill, type Filling, type Hand, type ShownIssue } from './use-fill';

export default function FillView({ data }: { data: SheetData }) {
  return (
    <Root>
      <Adding>
        <Fill data={data} />
      </Adding>
      <Toasts />
    </Root>
  );
}

/** Fetched when somebody adds something. */
const AddRecord = lazy(() => import('./AddRecord'));

/** Where what is missing from a lookup is added on the spot. */
function Adding({ children }: { children: ReactNode }) {
  const [missing, setMissing] = useState<Missing | null>(null);
  return (
    <AddMissing value={setMissing}>
      {children}
      {missing !== null && (
        <Suspense>
          <AddRecord
            {...missing}
            onAdded={(id) => {
              setMissing(null);
              missing.onAdded(id);
            }}
            onClose={() => setMissing(null)}
          />
        </Suspense>
      )}
    </AddMissing>
  );
}

function Fill({ data }: { data: SheetData }) {
  const fill: Filling = { ...useFill(data), data };
  useSendKey(() => void fill.send());
  useUndoKeys(fill);
  const { design, submission, record } = data;
  const lines = useMemo(() => shownLines(data), [data]);
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-3">
        <div>
          <p className="quiet">
            <Whence data={data} />
          </p>
          <h1 className="text-[23px]">
            {titleOf(data)}{' '}
            <span
              className={`tag align-middle font-sans ${submission?.state === 'sent-back' ? 'bg-marker' : 'bg-slate-200'}`}
            >
              {submission?.state === 'sent-back'
                ? `${submission.number ?? ''} was sent back`
                : record === null
                  ? 'Draft'
                  : 'Change'}
            </span>
          </h1>
        </div>
        <div className="flex flex-wrap items-center gap-3">
          <KeptWords keeping={fill.keeping} />
          <SetAside fill={fill} />
          {submission?.state !== 'sent-back' && record === null && (
            <button
              type="button"
              className="button"
              disabled={fill.sending}
              onClick={() => void fill.send(true)}
            >
              Send and fill the next
            </button>
          )}
          <button
            type="button"
            className="button button-go max-sm:fixed max-sm:inset-x-3 max-sm:bottom-3 max-sm:z-10 max-sm:justify-center max-sm:shadow-lg"
            disabled={fill.sending}
            onClick={() => void fill.send()}
          >
            {sendWords(data)}
            <kbd className="rounded border border-white/60 px-1 font-mono text-[12px] max-sm:hidden">
              Ctrl ⏎
            </kbd>
          </button>
        </div>
      </div>
      {data.after !== null && (
        <p role="status" className="mb-3 rounded-md bg-lichen-soft px-4 py-2 text-lichen-deep">
          <strong>{data.after} was sent.</strong> This is the next one.
          <AfterWords data={data} />
        </p>
      )}
      {submission?.state === 'sent-back' && <SentBackWord data={data} />}
      <div role="alert">
        {fill.serverWords !== '' && (
          <p className="mb-3 rounded-md bg-rust-soft px-4 py-2 font-semibold text-rust">{fill.serverWords}</p>
        )}
      </div>
      {fill.both !== null && <BothVersions settle={fill.settle} />}
      {fill.record.clashes.length > 0 && <Clashes fill={fill} />}
      {data.newer !== null && <NewerRelease fill={fill} newer={data.newer} />}
      <div className="sheet-frame max-sm:mb-16">
        {/* What is typed while it is on its way would not be sent with it. */}
        <div inert={fill.sending}>
          {design.sections
            .filter((section) => askedLines(lines.get(section.id), fill.sheet).length > 0)
            .map((section) => (
              <section key={section.id} aria-label={section.title || design.title}>
                {section.title !== '' && (
                  <h2 className="pt-3.5 pl-[46px] text-lg max-sm:pl-[34px]">{section.title}</h2>
                )}
                {askedLines(lines.get(section.id), fill.sheet).map((line) => (
                  <LineView key={line.id} line={line} fill={fill} />
                ))}
              </section>
            ))}
        </div>
        <FillMargin fill={fill} />
      </div>
    </>
  );
}

/** Where this sheet stands: among the forms, or by the record it changes. */
function Whence({ data: { design, record } }: { data: SheetData }) {
  const area = design.area !== '' && ` · ${design.area}`;
  if (record === null)
    return (
      <>
        <a href="/" className="crumb">
          Home
        </a>
        {area}
      </>
    );
  return (
    <>
      <a href={recordAddress(record)} className="crumb">
        {design.table.label} › {record.number}
      </a>
      {area}
    </>
  );
}

const sendWords = ({ design: { steps }, record }: SheetData): string =>
  record === null
    ? steps.length === 0
      ? 'Send and keep'
      : 'Send for approval'
    : steps.length === 0
      ? 'Save the change'
      : 'Send the change for approval';

/** The draft was changed elsewhere while this device could not send what was typed on it: the person says which is meant. */
function BothVersions({ settle }: { settle: (use: boolean) => void }) {
  return (
    <div role="alert" className="mb-3 flex flex-wrap items-center gap-3 rounded-md bg-marker-soft px-4 py-2">
      <p className="min-w-60 flex-1">
        <strong>There are two versions of this draft.</strong> What you typed on this device was never saved,
        and the draft was changed somewhere else since. You see the other one now.
      </p>
      <button type="button" className="button" onClick={() => settle(true)}>
        Use what I typed here
      </button>
      <button type="button" className="button" onClick={() => settle(false)}>
        Keep this one
      </button>
    </div>
  );
}

/** The form was released anew since this draft was begun. It may be sent as it is, or go on as the form is now. */
function NewerRelease({ fill, newer }: { fill: Filling; newer: NonNullable<SheetData['newer']> }) {
  const [words, setWords] = useState('');
  const carry = async () => {
    setWords('');
    try {
      if (!(await fill.flush())) return;
      const result = await call('POST', `/api/submissions/${fill.id}/carry-over`, {
        version: fill.version(),
      });
      if (!result.ok) return setWords(result.error.title);
      fill.forget();
      location.reload();
    } catch {
      setWords('The server cannot be reached. Nothing was changed; try again in a moment.');
    }
  };
  return (
    <div
      role="group"
      aria-label="A newer release"
      className="mb-3 flex flex-wrap items-center gap-3 rounded-md bg-marker-soft px-4 py-2"
    >
      <div className="min-w-60 flex-1">
        <p>
          <strong>This form has changed since you began.</strong> You can send the draft as it is, or go on
          with release {newer.number}.
        </p>
        {newer.left.length > 0 && (
          <>
            <p>No longer asked there, and so left out:</p>
            <ul className="list-disc pl-5">
              {newer.left.map(({ label, text }, i) => (
                <li key={i}>
                  {label}: <span className="font-semibold">{text}</span>
                </li>
              ))}
            </ul>
          </>
        )}
        {words !== '' && (
          <p role="alert" className="font-semibold text-rust">
            {words}
          </p>
        )}
      </div>
      <button type="button" className="button" onClick={() => void carry()}>
        Go on with release {newer.number}
      </button>
    </div>
  );
}

function SentBackWord({ data }: { data: SheetData }) {
  const word = data.submission?.events.filter(({ kind }) => kind === 'send-back').at(-1);
  if (word === undefined) return null;
  return (
    <p className="mb-3 rounded-md bg-marker-soft px-4 py-2">
      <strong>{word.by} asks:</strong> {word.word}
    </p>
  );
}

function LineView({ line, fill }: { line: Line; fill: Filling }) {
  return (
    <div className="line">
      <span className="gutter" aria-hidden>
        {line.number}
      </span>
      <div className="grid grid-cols-1 gap-x-4.5 gap-y-2 sm:grid-cols-2">
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
  return (
    <div role="group" aria-label={group.label}>
      <Asked question={group} isRequired={sheet.isRequired([group.id])} />
      {isFixedIn(data, group) ? (
        <RowsShown
          group={group}
          review={{ data, sheet, before: null, changes: null, stood: fill.record.stood }}
        />
      ) : (
        <RowsView group={group} fill={fill} />
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
            onComing={hand.coming}
          />
        ) : (
          <output id={controlId(place)} className="calculated-value tabular">
            <span>{shown(question, sheet.value(place)) || '—'}</span>
            <span className="quiet">
              {isFixed
                ? 'not changed here'
                : question.kind === 'calculated'
                  ? 'calculated'
                  : 'from the record'}
            </span>
          </output>
        )}
        <Troubles issues={troubles} />
      </div>
    );
  },
  (was, is) => was.question === is.question && was.hand === is.hand && sameIssues(was.troubles, is.troubles),
);

function KeptWords({ keeping }: { keeping: Keeping }) {
  const words = {
    fresh: () => 'Saved as you type',
    typing: () => 'Saving…',
    kept: (one: Keeping) => (one.t === 'kept' && one.at !== null ? `Saved ${clock(one.at)}` : ''),
    away: () => 'No connection · saved on this device',
    refused: (one: Keeping) => (one.t === 'refused' ? one.words : ''),
  }[keeping.t](keeping);
  return (
    <span
      role="status"
      className={
        keeping.t === 'away' || keeping.t === 'refused' ? 'text-[13px] font-semibold text-ochre' : 'quiet'
      }
    >
      {words}
    </span>
  );
}

function SetAside({ fill }: { fill: Filling }) {
  const { record } = fill.data;
  const away = record === null ? '/' : recordAddress(record);
  const aside = async () => {
    if (fill.keeping.t === 'fresh' || (await fill.flush())) location.assign(away);
  };
  const [sure, setSure] = useState(false);
  const drop = async () => {
    if (!sure) return setSure(true);
    fill.forget();
    if (fill.keeping.t !== 'fresh') await call('DELETE', `/api/submissions/${fill.id}`);
    location.assign(away);
  };
  const isDraft = fill.data.submission === null || fill.data.submission.state === 'draft';
  return (
    <>
      {isDraft && fill.keeping.t !== 'fresh' && (
        <button
          type="button"
          className="button button-stop"
          onClick={() => void drop()}
          onBlur={() => setSure(false)}
        >
          {sure ? 'Throw it away for good' : 'Throw away'}
        </button>
      )}
      <button type="button" className="button" onClick={() => void aside()}>
        Set aside
      </button>
    </>
  );
}

/** Ctrl Z takes the last step back, Ctrl Shift Z or Ctrl Y does it again; the browser's own undo knows only the field it stands in. */
function useUndoKeys({ sheet, changed }: Filling): void {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      const back = key === 'z' && !event.shiftKey;
      if (
        !(event.ctrlKey || event.metaKey) ||
        (key !== 'z' && key !== 'y') ||
        !(back ? sheet.canUndo : sheet.canRedo)
      )
        return;
      event.preventDefault();
      if (back) sheet.undo();
      else sheet.redo();
      changed();
    };
    window.addEventListener('keydown', pressed);
    return () => window.removeEventListener('keydown', pressed);
  }, [sheet, changed]);
}

function useSendKey(send: () => void): void {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
      // A record that is being added on the spot is what is meant.
      if (document.querySelector('dialog[open]') !== null) return;
      event.preventDefault();
      event.stopPropagation();
      send();
    };
    // Before the control in hand hears of it: a button would take Enter for itself.
    window.addEventListener('keydown', pressed, true);
    return () => window.removeEventListener('keydown', pressed, true);
  });
}
