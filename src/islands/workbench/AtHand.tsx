import { explained } from '../../core/check/explained';
import { namesIn, valueWords } from '../../core/check/with-values';
import { toShown } from '../../core/expression/stored-text';
import type { RowsQuestion } from '../../core/form/design';
import { formulaSentence } from '../../core/wording/formula-sentence';
import { ArrowRight, Equal } from '../kit/icons';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import type { Example } from './use-example';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly stored: string;
  readonly group: RowsQuestion | undefined;
}

/** An expression with the answers of an example: what it comes to, and what each of its pieces is worth. */
export function AtHand({ bench, stored, group, example }: Props & { example: Example }) {
  const scope = bench.scope(group);
  const text = toShown(stored, scope);
  const told = example.sheet === null ? null : explained(example.sheet, text, scope, group ?? null);
  return (
    <section className="margin-part" aria-labelledby="at-hand">
      <h2 id="at-hand" className="margin-title">
        <Equal size={16} aria-hidden />
        {speak`What it comes to`}
      </h2>
      <Sentence>
        {speakIn`with ${(
          <Select
            label={speak`Answers it is tried with`}
            value={example.of}
            choices={example.choices}
            onChange={example.pick}
          />
        )}`}
        {told?.row != null && <span className="quiet">{speak`in row ${told.row}`}</span>}
      </Sentence>
      {told === null ? (
        <p className="quiet">
          {example.sheet !== null && group !== undefined
            ? speak`No row of it is filled, or it cannot be read yet.`
            : speak`It cannot be read yet.`}
        </p>
      ) : (
        <dl className="mt-1.5 grid gap-1 text-[14px]" aria-label={speak`What each piece is worth`}>
          {told.parts.map(({ text: piece, depth, value }) => (
            <div
              key={piece}
              className="flex flex-wrap items-baseline justify-between gap-x-3"
              style={{ paddingInlineStart: Math.min(depth, 4) * 12 }}
            >
              <dt className="min-w-0 font-mono text-[13px] break-words text-slate-700">{piece}</dt>
              <dd className={`ml-auto text-right break-words ${depth === 0 ? 'font-bold' : ''}`}>
                {valueWords(value)}
              </dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  );
}

/** What an expression is worked out from, and what is worked out from it. `id` is that of the calculation; a check is read by nothing. */
export function Reads({ bench, stored, group, id }: Props & { id: string | null }) {
  const scope = bench.scope(group);
  const names = namesIn(toShown(stored, scope), scope);
  const { compiled } = bench;
  const readers = id === null ? [] : (compiled?.readers.get(id) ?? []);
  const sentences = [
    ...new Set(
      readers.flatMap((i) => {
        const formula = compiled?.formulas[i];
        return formula === undefined ? [] : [formulaSentence(formula.what)];
      }),
    ),
  ];
  return (
    <section className="margin-part" aria-labelledby="reads">
      <h2 id="reads" className="margin-title">
        <ArrowRight size={16} aria-hidden />
        {speak`Reads`}
      </h2>
      <p className="flex flex-wrap gap-1.5">
        {names.length === 0
          ? speak`No answer.`
          : names.map((name) => (
              <span key={name} className="name text-[13px]">
                {name}
              </span>
            ))}
      </p>
      <p className="quiet mt-1.5 break-words">
        {sentences.length === 0 ? speak`Read by nothing else.` : speak`Read by ${sentences.join(', ')}.`}
      </p>
    </section>
  );
}
