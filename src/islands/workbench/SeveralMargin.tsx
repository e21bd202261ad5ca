import { Copy, Trash2 } from '../kit/icons';
import { allQuestions, isField, type Question } from '../../core/form/design';
import { replaceQuestion } from '../../core/form/edit';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { duplicateLine, placeLines, takeOut } from './line-edits';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Several lines in hand: what is set here is set for all of them, as one edit. */
export function SeveralMargin({ bench }: { bench: Workbench }) {
  const questions = allQuestions(bench.design).filter(({ id }) => bench.hand.includes(id));
  const asked = questions.filter((one) => one.kind !== 'fixed-text' && one.kind !== 'calculated');
  const setAll = (part: Partial<Question>) =>
    bench.edit((design) =>
      asked.reduce(
        (now, { id }) => replaceQuestion(now, id, (one) => ({ ...one, ...part }) as Question),
        design,
      ),
    );
  const required = asked.every((one) => one.required)
    ? 'yes'
    : asked.some((one) => one.required)
      ? null
      : 'no';
  const uses = [...new Set(asked.map(({ onChange }) => onChange ?? 'asked'))];
  return (
    <>
      <section className="margin-part first" aria-label={speak`The lines in hand`}>
        <h2 className="margin-title text-ink!">{speak`${questions.length} lines in hand`}</h2>
        <p className="quiet mb-2">{questions.map(({ label }) => label || speak`text`).join(', ')}</p>
        {asked.length > 0 && (
          <>
            <Sentence>{speakIn`All of them ${(
              <Select
                label={speak`Must they be filled`}
                value={required}
                placeholder={speak`differ`}
                choices={[
                  { value: 'no', label: speak`may stay empty` },
                  { value: 'yes', label: speak`must be filled` },
                ]}
                onChange={(value) => setAll({ required: value === 'yes' })}
              />
            )}`}</Sentence>
            <Sentence>{speakIn`and when a record is changed they are ${(
              <Select
                label={speak`When a record is changed`}
                value={uses.length === 1 ? (uses[0] ?? null) : null}
                placeholder={speak`differ`}
                choices={[
                  { value: 'asked', label: speak`asked` },
                  { value: 'locked', label: speak`shown, not changed` },
                  { value: 'hidden', label: speak`not shown` },
                ]}
                onChange={(value) =>
                  setAll({ onChange: value === 'locked' || value === 'hidden' ? value : undefined })
                }
              />
            )}`}</Sentence>
          </>
        )}
        <Sentence>{speakIn`Take them to ${(
          <Select
            label={speak`Where they are taken`}
            value={null}
            placeholder={speak`a section or rows`}
            choices={homes(bench, questions)}
            onChange={(value) => {
              const [kind = '', id = ''] = value.split(':');
              placeLines(bench, bench.hand, { [kind]: id, before: null });
            }}
          />
        )}`}</Sentence>
      </section>
      <p className="margin-part flex flex-wrap gap-2">
        <button
          type="button"
          className="button"
          onClick={() => bench.hand.forEach((id) => duplicateLine(bench, id))}
        >
          <Copy size={15} aria-hidden />
          {speak`Duplicate`}
        </button>
        <button type="button" className="button button-stop" onClick={() => takeOut(bench, bench.hand)}>
          <Trash2 size={15} aria-hidden />
          {speak`Take them out`}
        </button>
      </p>
    </>
  );
}

function homes({ design }: Workbench, questions: readonly Question[]) {
  const groups = questions.every(isField) ? allQuestions(design).filter((one) => one.kind === 'rows') : [];
  return [
    ...design.sections.map(({ id, title }, i) => ({
      value: `section:${id}`,
      label: title === '' ? speak`section ${i + 1}` : title,
    })),
    ...groups.map(({ id, label }) => ({ value: `group:${id}`, label: speak`the rows of ${label}` })),
  ];
}
