import { useState } from 'react';
import { pickables, pickedOf, pickedSentence } from '../../core/check/pick';
import { relativeDayWords } from '../../core/check/day-ranges';
import { comparisonsFor, memberWords, pickText, type Pick, type PickBy } from '../../core/check/pick-text';
import { toShown, toStored } from '../../core/expression/stored-text';
import { fits, type Scope } from '../../core/expression/type';
import type { Check } from '../../core/check/check';
import { Select } from './Select';
import { Sentence, Word } from './Sentence';
import { speak } from '../../core/wording/speak';
import { speakIn } from './speak-in';

/** Picking writes the expression and reads it back; what picking cannot say is left to the expression alone. */
export function Picks({
  must,
  scope,
  change,
  ownKey,
  isDemand = true,
}: {
  /** FEEL as stored text. */
  must: string;
  scope: Scope;
  change: (must: string) => void;
  /** What a new condition is about. */
  ownKey: string;
  /** Whether it says what must be; otherwise, what is. */
  isDemand?: boolean;
}) {
  const text = toShown(must, scope);
  const verb = isDemand ? speak`must be` : speak`is`;
  const picked = pickedOf(text, scope);
  const known = picked?.picks.length === 1 ? (picked.picks[0] ?? null) : null;
  const [draft, setDraft] = useState<Pick>({ left: ownKey, by: '<=', right: [''] });
  const simple = known === null || !['one-of', 'none-of', 'between'].includes(known.by);
  if (picked !== null && (picked.picks.length > 1 || !simple))
    return (
      <p className="mb-2">
        {pickedSentence(picked, scope, isDemand ? 'must be' : 'is')}.{' '}
        <span className="quiet">{speak`Change it as an expression below.`}</span>
      </p>
    );
  if (known === null && text.trim() !== '' && text.trim() !== pickText(draft).trim())
    return <p className="quiet mb-2">{speak`This is written as an expression; picking cannot say it.`}</p>;
  const pick = known ?? draft;
  const all = pickables(scope);
  const type = all.find((one) => one.text === pick.left)?.type ?? { t: 'number' as const };
  const [right = ''] = pick.right;
  const alone = pick.by === 'filled' || pick.by === 'empty';
  const set = (part: Partial<Pick>) => {
    const merged = { ...pick, ...part };
    const next = {
      ...merged,
      right:
        merged.by === 'filled' || merged.by === 'empty'
          ? []
          : merged.right.length === 0
            ? ['']
            : merged.right,
    };
    setDraft(next);
    change(toStored(pickText(next), scope));
  };
  const others = all
    .filter((one) => one.text !== pick.left && fits(one.type, type.t === 'list' ? type.of : type))
    .map((one) => ({ value: one.text, label: one.text }));
  const isAnswer = others.some(({ value }) => value === right) || right === 'today()';
  return (
    <>
      <Sentence>
        <Select
          label={speak`Answer`}
          value={pick.left}
          choices={all
            // What must be of a record is said by its columns; which record it is, by another answer.
            .filter((one) => one.type.t !== 'record' || !isDemand)
            .map((one) => ({ value: one.text, label: one.text }))}
          onChange={(left) => {
            const { t } = all.find((one) => one.text === left)?.type ?? type;
            set({
              left,
              ...(t === 'record' && { by: '=', right: [''] }),
              ...((t === 'list') !== (memberWords(pick.by) !== null) && { by: t === 'list' ? 'has' : '=' }),
            });
          }}
        />{' '}
        {type.t === 'list' && isDemand ? speak`must` : verb}{' '}
        <Select
          label={speak`Comparison`}
          value={pick.by}
          choices={comparisonsFor(type).map(({ by, words }) => ({
            value: by,
            label: type.t === 'list' && memberWords(by) === null ? speak`be ${words}` : words,
          }))}
          onChange={(by) => set({ by: by as PickBy })}
        />
      </Sentence>
      {!alone && (
        <Sentence>
          <Select
            label={speak`Compared with`}
            value={isAnswer ? right : type.t === 'record' ? null : 'a value'}
            placeholder={speak`an answer`}
            choices={[
              ...(type.t === 'record' ? [] : [{ value: 'a value', label: speak`the value` }]),
              ...(type.t === 'date' ? [{ value: 'today()', label: speak`today` }] : []),
              ...others,
            ]}
            onChange={(picked) => set({ right: [picked === 'a value' ? '' : picked] })}
          />
          {!isAnswer && type.t !== 'record' && (
            <ValueWord
              type={type.t === 'list' ? type.of.t : type.t}
              feel={right}
              onChange={(feel) => set({ right: [feel] })}
            />
          )}
        </Sentence>
      )}
    </>
  );
}

/** What a check does where it does not hold; its message is written below. */
export function Otherwise({
  check,
  change,
}: {
  readonly check: Check;
  readonly change: (part: Partial<Check>) => void;
}) {
  return (
    <Sentence>{speakIn`otherwise ${(
      <Select
        label={speak`What it does`}
        value={check.otherwise}
        choices={[
          { value: 'stop', label: speak`stop` },
          { value: 'ask', label: speak`ask for a reason` },
        ]}
        onChange={(value) => change({ otherwise: value === 'ask' ? 'ask' : 'stop' })}
      />
    )} and say`}</Sentence>
  );
}

/** A value as people write it, kept as FEEL. */
function ValueWord({
  type,
  feel,
  onChange,
}: {
  type: string;
  feel: string;
  onChange: (feel: string) => void;
}) {
  if (type === 'yes-no')
    return (
      <Select
        label={speak`Value`}
        value={feel || null}
        choices={[
          { value: 'true', label: speak`yes` },
          { value: 'false', label: speak`no` },
        ]}
        onChange={onChange}
      />
    );
  const relative = type === 'date' && feel !== '' ? relativeDayWords(feel) : null;
  if (relative !== null) return <strong>{relative}</strong>;
  if (type === 'date')
    return (
      <input
        type="date"
        aria-label={speak`Value`}
        className="rounded border border-slate-400 bg-white px-1.5 text-[14px]"
        value={/^date\("(.*)"\)$/.exec(feel)?.[1] ?? ''}
        onChange={(event) => onChange(`date("${event.target.value}")`)}
      />
    );
  if (type === 'text')
    return (
      <Word
        label={speak`Value`}
        value={textValue(feel)}
        onChange={(value) => onChange(JSON.stringify(value))}
      />
    );
  return <Word label={speak`Value`} value={feel} placeholder="0" onChange={onChange} />;
}

function textValue(feel: string): string {
  try {
    return String(JSON.parse(feel === '' ? '""' : feel));
  } catch {
    return feel;
  }
}
