import { useState } from 'react';
import type { SheetData } from '../../contract/sheet-from-server';
import { call } from '../kit/call';
import type { Filling } from './use-fill';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** The draft was changed elsewhere while this device could not send what was typed on it: the person says which is meant. */
export function BothVersions({ settle }: { settle: (use: boolean) => void }) {
  return (
    <div role="alert" className="mb-3 flex flex-wrap items-center gap-3 rounded-md bg-marker-soft px-4 py-2">
      <p className="min-w-60 flex-1">{speakIn`${(<strong>{speak`There are two versions of this draft.`}</strong>)} What you typed on this device was never saved, and the draft was changed somewhere else since. You see the other one now.`}</p>
      <button
        type="button"
        className="button"
        onClick={() => settle(true)}
      >{speak`Use what I typed here`}</button>
      <button type="button" className="button" onClick={() => settle(false)}>{speak`Keep this one`}</button>
    </div>
  );
}

/** The form was released anew since this draft was begun. It may be sent as it is, or go on as the form is now. */
export function NewerRelease({ fill, newer }: { fill: Filling; newer: NonNullable<SheetData['newer']> }) {
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
      setWords(speak`The server cannot be reached. Nothing was changed; try again in a moment.`);
    }
  };
  return (
    <div
      role="group"
      aria-label={speak`A newer release`}
      className="mb-3 flex flex-wrap items-center gap-3 rounded-md bg-marker-soft px-4 py-2"
    >
      <div className="min-w-60 flex-1">
        <p>
          {speakIn`${(<strong>{speak`This form has changed since you began.`}</strong>)} You can send the draft as it is, or go on with release ${newer.number}`}
          .
        </p>
        {newer.note !== '' && <p className="break-words">{speak`What is new: ${newer.note}`}</p>}
        {newer.left.length > 0 && (
          <>
            <p>{speak`No longer asked there, and so left out:`}</p>
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
      <button
        type="button"
        className="button"
        onClick={() => void carry()}
      >{speak`Go on with release ${newer.number}`}</button>
    </div>
  );
}

/** What whoever sent it back asks for, and what was said since. */
export function SentBackWord({ data }: { data: SheetData }) {
  const events = data.submission?.events ?? [];
  const at = events.findLastIndex(({ kind }) => kind === 'send-back');
  const word = events[at];
  if (word === undefined) return null;
  return (
    <div className="mb-3 rounded-md bg-marker-soft px-4 py-2 break-words">
      <p>
        <strong>{speak`${word.by} asks:`}</strong> {word.word}
      </p>
      {events.slice(at + 1).map(
        (event, i) =>
          event.kind === 'remark' && (
            <p key={i}>
              <strong>{event.by}:</strong> {event.word}
            </p>
          ),
      )}
    </div>
  );
}
