import { groupsOf, isField, questionsOf, type FieldQuestion, type FormDesign } from '../../core/form/design';
import { shown, type Place } from '../../core/form/cells';
import { labelOf } from '../../core/form/line';
import type { Sheet } from '../../core/form/sheet';
import type { AnswerPlace } from '../../core/storage/merged-answers';
import { UsersRound } from '../kit/icons';
import { goTo, lineAtPlace } from './sheet-model';
import type { Filling } from './use-fill';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** What somebody else changed in the record while it was being changed here: both stand beside each other, and a word says which stays. */
export function Clashes({ fill }: { fill: Filling }) {
  const { sheet, data, record } = fill;
  return (
    <section
      role="alert"
      aria-label={speak`Changed by somebody else too`}
      className="mb-3 rounded-md bg-marker-soft px-4 py-2.5"
    >
      <h2 className="flex items-center gap-2 text-[15px]">
        <UsersRound size={16} aria-hidden />
        {speak`Somebody else changed ${record.clashes.length === 1 ? speak`this answer` : speak`these answers`} meanwhile. Which of the two stands?`}
      </h2>
      <ul className="mt-2 grid gap-2">
        {record.clashes.map((place) => (
          <li key={place.join()} className="flex flex-wrap items-center gap-x-3 gap-y-1">
            <button
              type="button"
              className="button-plain min-w-8 font-mono"
              onClick={() => goTo(place)}
              aria-label={speak`Go to line ${lineAtPlace(data.design, sheet, place)}`}
            >
              {lineAtPlace(data.design, sheet, place)}
            </button>
            <span className="min-w-40 flex-1">
              <strong>{wordsOf(data.design, place)}</strong> ·{' '}
              <span className="break-words">{speakIn`yours: ${(<q>{textAt(data.design, sheet, place)}</q>)}, theirs: ${(<q>{textAt(data.design, record.was, place)}</q>)}`}</span>
            </span>
            <button
              type="button"
              className="button"
              onClick={() => fill.settleClash(place, 'mine')}
            >{speak`Keep mine`}</button>
            <button
              type="button"
              className="button"
              onClick={() => fill.settleClash(place, 'theirs')}
            >{speak`Take theirs`}</button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const wordsOf = (design: FormDesign, [first = '', , question]: AnswerPlace): string =>
  labelOf(design, question ?? first);

/** What stands at a place, as it is read; a row by its first answers. */
function textAt(design: FormDesign, sheet: Sheet | null, place: AnswerPlace): string {
  if (sheet === null) return '';
  const [first = '', row, question] = place;
  const group = groupsOf(design).find(({ id }) => id === first);
  const of = (one: FieldQuestion, at: Place): string => shown(one, sheet.value(at));
  if (row === undefined) {
    const field = questionsOf(design).find(({ id }) => id === first);
    return (field !== undefined && isField(field) && of(field, [first])) || speak`empty`;
  }
  if (group === undefined || !sheet.filledRows(first).some(({ id }) => id === row)) return speak`removed`;
  const cells = group.columns
    .filter(({ id }) => question === undefined || id === question)
    .map((one) => of(one, [first, row, one.id]))
    .filter((text) => text !== '');
  return cells.slice(0, 3).join(' · ') || speak`empty`;
}
