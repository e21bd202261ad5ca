import { useState } from 'react';
import type { LookupOptions } from '../../contract/sheet-from-server';
import { findAnswers, type Goal } from '../../core/check/found-answers';
import type { Place } from '../../core/form/cells';
import { isField, questionsOf, type LookupQuestion } from '../../core/form/design';
import { asRecord, type PickedRecord } from '../../core/form/picked-record';
import { newUuid } from '../../core/kernel/ids';
import { call } from '../kit/call';
import { PenLine } from '../kit/icons';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { givenFor } from '../sheet/lookup-given';
import type { Filling } from '../sheet/use-fill';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly fill: Filling;
}

/** Records that are tried for a lookup nobody has answered. */
const MOST_RECORDS = 5;

/** Answers that are looked for instead of typed: such as fit, or such as just break one check. */
export function RehearsalFinder({ bench, fill }: Props) {
  const [said, setSaid] = useState('');
  const [busy, setBusy] = useState(false);
  const { checks } = bench.design;
  const find = async (value: string) => {
    setBusy(true);
    setSaid('');
    const goal: Goal = value === 'fit' ? { t: 'fit' } : { t: 'break', check: value };
    const met = await found(bench, fill, goal);
    setBusy(false);
    setSaid(
      met
        ? ''
        : goal.t === 'fit'
          ? speak`Not everything could be made to fit: what is left stands above.`
          : speak`No answers were found that break this check and nothing else.`,
    );
  };
  return (
    <section className="margin-part" aria-labelledby="finder">
      <h2 id="finder" className="margin-title">
        <PenLine size={16} aria-hidden />
        {speak`Fill it for me`}
      </h2>
      <Sentence>{speakIn`with ${(
        <Select
          label={speak`Answers to be found`}
          value={null}
          placeholder={busy ? 'looking…' : speak`answers that…`}
          disabled={busy}
          choices={[
            { value: 'fit', label: speak`answers that fit` },
            ...checks.map(({ id, message, on }) => ({
              value: id,
              label: speak`answers that just break ${bench.numbers.get(on) ?? ''} “${message}”`,
            })),
          ]}
          onChange={(value) => void find(value)}
        />
      )}`}</Sentence>
      <p role="status" className="quiet">
        {said}
      </p>
    </section>
  );
}

/** Lookups nobody has answered are answered with one record after the other, until the goal is met. */
async function found(bench: Workbench, fill: Filling, goal: Goal): Promise<boolean> {
  const { sheet } = fill;
  const means = { today: fill.data.now.slice(0, 10), newId: newUuid };
  const open = emptyLookups(fill);
  for (let nth = 0; nth < MOST_RECORDS; nth++) {
    let another = false;
    for (const { question, place } of open) {
      const records = await recordsFor(bench, fill, question, place);
      const record = records[nth];
      if (record === undefined) continue;
      another = true;
      sheet.pick(place, question.table, asRecord(record, fill.model.tables.get(question.table)));
    }
    if (findAnswers(sheet, goal, means)) return true;
    if (!another) return false;
  }
  return false;
}

interface OpenLookup {
  readonly question: LookupQuestion;
  readonly place: Place;
}

/** In the form, and in a first row of each group that has to have one. */
function emptyLookups({ sheet, data }: Filling): OpenLookup[] {
  return questionsOf(data.design).flatMap((question): OpenLookup[] => {
    if (question.kind === 'rows') {
      const columns = question.columns.filter((one) => one.kind === 'lookup');
      const [row] = sheet.rows(question.id);
      if (columns.length === 0 || row === undefined || (!question.required && question.least === 0))
        return [];
      return columns
        .map((column): OpenLookup => ({ question: column, place: [question.id, row.id, column.id] }))
        .filter(({ place }) => sheet.raw(place) === null);
    }
    return isField(question) && question.kind === 'lookup' && sheet.raw([question.id]) === null
      ? [{ question, place: [question.id] }]
      : [];
  });
}

async function recordsFor(
  { data }: Workbench,
  { sheet }: Filling,
  question: LookupQuestion,
  place: Place,
): Promise<readonly PickedRecord[]> {
  const given = givenFor(sheet, question, place.length === 3 ? [place[0], place[1]] : null);
  const result = await call<LookupOptions>('POST', `/api/forms/${data.id}/lookups/${question.id}/options`, {
    submission: 'rehearsal',
    given,
  }).catch(() => null);
  return result?.ok === true ? result.value.options.slice(0, MOST_RECORDS) : [];
}
