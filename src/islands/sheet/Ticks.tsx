import type { FieldQuestion } from '../../core/form/design';
import { inOrder } from '../../core/table/kinds/choices';
import { listStored, storedList } from '../../core/table/kinds/stored-list';
import { shown } from '../../core/form/cells';
import { Later } from '../kit/Awake';
import { heavy } from './heavy';
import { controlId } from './sheet-model';
import type { ControlProps } from './control-props';
import { speak } from '../../core/wording/speak';

interface TickProps extends ControlProps {
  readonly set: (raw: string | boolean | null) => void;
}

/** As many of the choices as apply: all to be seen on a line of their own, from a list in a row. */
export function ChoicesControl(props: TickProps & { question: Extract<FieldQuestion, { kind: 'choices' }> }) {
  const { question, place, sheet, set, invalid, describedBy, onTouch, bare = false, name } = props;
  const raw = sheet.raw(place);
  const chosen = typeof raw === 'string' ? (listStored(raw) ?? []) : [];
  const offered = question.choices.filter(({ code, retired }) => retired !== true || chosen.includes(code));
  const choose = (codes: readonly string[]) => set(storedList(inOrder(new Set(codes), question.choices)));
  // What was pasted and names no choices is shown as it is, until something is chosen.
  const strange = typeof raw === 'string' && listStored(raw) === null ? raw : '';
  if (bare)
    return (
      <div id={controlId(place)} onBlur={onTouch}>
        <Later
          likeness={
            <span className="pick">{strange || shown(question, sheet.value(place)) || speak`Choose`}</span>
          }
        >
          {() =>
            heavy.Several !== null && (
              <heavy.Several
                label={name}
                values={chosen}
                none={strange || speak`Choose`}
                choices={offered.map(({ code, label }) => ({ value: code, label }))}
                onChange={choose}
              />
            )
          }
        </Later>
      </div>
    );
  return (
    <div
      id={controlId(place)}
      role="group"
      aria-label={name}
      aria-describedby={describedBy}
      className={`grid gap-x-5 gap-y-1 py-1 ${offered.length > LONG ? 'sm:grid-cols-2' : ''}`}
      onBlur={onTouch}
    >
      {strange !== '' && <p className="quiet">{speak`“${strange}” is none of these.`}</p>}
      {offered.map(({ code, label }) => (
        <label key={code} className="flex min-w-0 items-start gap-2">
          <input
            type="checkbox"
            checked={chosen.includes(code)}
            aria-invalid={invalid}
            onChange={({ target }) =>
              choose(target.checked ? [...chosen, code] : chosen.filter((one) => one !== code))
            }
            className="mt-1 size-4 shrink-0 accent-lichen"
          />
          <span className="min-w-0 break-words">{label}</span>
        </label>
      ))}
    </div>
  );
}

/** Choices that would make one column too long. */
const LONG = 5;

/** A sentence to be ticked. What is not ticked is left open. */
export function ConfirmationControl(
  props: TickProps & { question: Extract<FieldQuestion, { kind: 'confirmation' }> },
) {
  const { question, place, sheet, set, invalid, describedBy, onTouch, bare = false, name } = props;
  return (
    <label className={`flex items-start gap-2 ${bare ? 'justify-center' : 'py-1'}`}>
      <input
        id={controlId(place)}
        type="checkbox"
        checked={sheet.raw(place) === true}
        aria-label={bare || question.statement === '' ? name : undefined}
        aria-invalid={invalid}
        aria-describedby={describedBy}
        onChange={({ target }) => set(target.checked ? true : null)}
        onBlur={onTouch}
        className="mt-1 size-4 shrink-0 accent-lichen"
      />
      {!bare && <span className="min-w-0 break-words">{question.statement || speak`Yes`}</span>}
    </label>
  );
}
