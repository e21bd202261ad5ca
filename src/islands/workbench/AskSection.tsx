import { memo } from 'react';
import { Plus, Settings2 } from '../kit/icons';
import { addSection, changeSection } from '../../core/form/change/arrange';
import { isField, type Section } from '../../core/form/design';
import { type Line } from '../../core/form/numbered-lines';
import { toShown } from '../../core/expression/stored-text';
import { newShortId } from '../../core/kernel/ids';
import { NextQuestion } from './NextLines';
import { QuestionPreview } from './QuestionPreview';
import { Handle, LineSpot } from './Spots';
import type { Workbench } from './use-workbench';
import { Marked } from './Marked';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  /** As its lines show it: sixty of them take longer to draw than a letter may take to be painted, so they follow. */
  readonly shown: Workbench;
  readonly section: Section;
  readonly at: number;
  readonly lines: readonly Line[];
}

/** A section with its lines, and where the next question of it is typed. */
export function AskSection({ bench, shown, section, at, lines }: Props) {
  return (
    <section
      aria-label={section.title || speak`Section`}
      className={at > 0 ? 'border-t-2 border-slate-200' : ''}
    >
      <Head bench={bench} section={section} at={at} />
      <Lines bench={shown} section={section.id} inTwo={section.columns === 2} lines={lines} />
      <NextQuestion bench={bench} section={section.id} />
      {at === bench.design.sections.length - 1 && (
        <p className="pb-4 pl-[46px]">
          <button type="button" className="button-plain" onClick={() => add(bench, section.id)}>
            <Plus size={15} aria-hidden />
            {speak`Section`}
          </button>
        </p>
      )}
    </section>
  );
}

interface LinesProps {
  readonly bench: Workbench;
  readonly section: string;
  readonly inTwo: boolean;
  readonly lines: readonly Line[];
}

const Lines = memo(function Lines({ bench, section, inTwo, lines }: LinesProps) {
  return (
    <div className={inTwo ? 'two-columns' : ''}>
      {lines.map((line) => (
        <LineSpot
          key={line.id}
          id={line.id}
          home={{ section, before: line.id }}
          className={line.half === true ? '' : 'whole'}
        >
          <AskLine bench={bench} line={line} />
        </LineSpot>
      ))}
    </div>
  );
});

function add(bench: Workbench, after: string): void {
  const id = newShortId();
  bench.edit((design) => addSection(design, { id, title: '', questions: [] }, after));
  bench.select(id);
}

function Head({ bench, section, at }: Pick<Props, 'bench' | 'section' | 'at'>) {
  const count = bench.design.sections.length;
  return (
    <div className="flex items-start gap-2 pt-3 pr-5 pl-[46px]">
      <div className="min-w-0 flex-1">
        <input
          aria-label={speak`Title of the section`}
          placeholder={speak`Title of this section (may stay empty)`}
          maxLength={200}
          className="w-full rounded border border-transparent bg-transparent font-serif text-lg font-semibold placeholder:font-normal placeholder:text-slate-500 hover:border-slate-300"
          value={section.title}
          onChange={(event) =>
            bench.edit((design) => changeSection(design, section.id, { title: event.target.value }))
          }
        />
        <p className="quiet">
          {count > 1 && speak`Section ${at + 1} of ${count}`}
          {count > 1 && section.columns === 2 && ' · '}
          {section.columns === 2 && speak`two columns`}
          <Marked bench={bench} id={section.id} />
          {section.showWhen !== undefined && (
            <>
              {' '}
              {speakIn`· shown only while ${(<code className="font-mono">{toShown(section.showWhen, bench.scope()) || '…'}</code>)}`}
            </>
          )}
        </p>
        {bench.issuesAt(section.id).length > 0 && (
          <p className="trouble">{speak`Its condition cannot be read`}</p>
        )}
      </div>
      <button
        type="button"
        className="button-plain text-slate-700!"
        aria-pressed={bench.selected === section.id}
        onClick={() => bench.select(section.id)}
      >
        <Settings2 size={15} aria-hidden />
        {speak`Section`}
      </button>
    </div>
  );
}

function AskLine({ bench, line }: { bench: Workbench; line: Line }) {
  const inHand = line.questions.some(({ id }) => bench.hand.includes(id) || bench.group?.id === id);
  const others = line.questions.flatMap((question) => [
    ...(bench.others.get(question.id) ?? []),
    ...(question.kind === 'rows' ? question.columns.flatMap(({ id }) => bench.others.get(id) ?? []) : []),
  ]);
  const [first] = line.questions;
  return (
    <div
      className={`line group/line relative h-full ${inHand ? 'bg-lichen-soft before:absolute before:inset-y-0 before:left-0 before:w-1 before:bg-lichen' : ''}`}
    >
      <span className="gutter pt-0!">
        <Handle
          id={line.id}
          dragged={{
            ids: line.questions.map(({ id }) => id),
            words: `${line.number} ${first?.label || speak`the text`}`,
          }}
        >
          {line.number}
        </Handle>
      </span>
      <div className={`grid grid-cols-1 gap-x-4.5 gap-y-2 ${line.half === true ? '' : 'sm:grid-cols-2'}`}>
        {line.questions.map((question) => (
          <div
            key={question.id}
            className={
              line.half === true || (isField(question) && line.questions.length > 1)
                ? 'min-w-0'
                : `min-w-0 ${isField(question) ? '' : 'sm:col-span-2'}`
            }
          >
            <QuestionPreview bench={bench} question={question} />
          </div>
        ))}
        {others.length > 0 && (
          <p className="text-[13px] font-semibold text-plum sm:col-span-2">{speak`${others.join(', ')} is here`}</p>
        )}
      </div>
    </div>
  );
}
