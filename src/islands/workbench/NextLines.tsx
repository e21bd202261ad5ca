import { LineSpot } from './Spots';
import { addColumn, addQuestion, asKind, choicesFrom, keysTaken } from '../../core/form/edit';
import {
  isField,
  type FormDesign,
  type Question,
  type RowsQuestion,
  type TableTarget,
} from '../../core/form/design';
import { keyFor } from '../../core/form/key';
import { typedLines, type TypedLine } from '../../core/form/typed-lines';
import { newShortId } from '../../core/kernel/ids';
import { Plus } from '../kit/icons';
import { NextInput } from '../kit/NextInput';
import { tableForRows } from './line-edits';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

/** Adds what was typed or pasted as one edit, and takes the last of it in hand. */
function addLines(
  bench: Workbench,
  text: string,
  add: (design: FormDesign, line: TypedLine, id: string) => FormDesign,
): void {
  const lines = typedLines(text).map((line) => ({ line, id: newShortId() }));
  bench.edit((design) => lines.reduce((now, { line, id }) => add(now, line, id), design));
  bench.select(lines.at(-1)?.id ?? null);
}

function questionOf(
  { data }: Workbench,
  { label, kind, choices }: TypedLine,
  id: string,
  key: string,
  table: TableTarget,
): Question {
  const made = asKind({ id, key, label, hint: '', required: false }, kind, table, data.currency);
  return made.kind === 'choice' ? { ...made, choices: choicesFrom(choices.join('\n'), []) } : made;
}

export function NextQuestion({ bench, section }: { bench: Workbench; section: string }) {
  return (
    <LineSpot id={`end:${section}`} home={{ section, before: null }}>
      <div className="line border-b-0" data-own-undo>
        <span className="gutter">
          <Plus size={15} aria-hidden className="ml-auto" />
        </span>
        <NextInput
          label={speak`Next question`}
          placeholder={speak`Type the next question — “How many…”, “When…”, or paste a column list`}
          onAdd={(text) =>
            addLines(bench, text, (design, line, id) => {
              const key = keyFor(line.label, keysTaken(design));
              const table = tableForRows(bench, design, { key, label: line.label });
              return addQuestion(design, section, questionOf(bench, line, id, key, table));
            })
          }
        />
      </div>
    </LineSpot>
  );
}

export function NextColumn({ bench, group }: { bench: Workbench; group: RowsQuestion }) {
  return (
    <LineSpot id={`end:${group.id}`} home={{ group: group.id, before: null }} className="mt-2 max-w-sm">
      <div data-own-undo>
        <NextInput
          label={speak`Next column of ${group.label}`}
          placeholder={speak`Type the next column, or paste several`}
          onAdd={(text) =>
            addLines(bench, text, (design, line, id) => {
              const key = keyFor(line.label, keysTaken(design, group.id), 'column');
              const made = questionOf(bench, line, id, key, group.table);
              return isField(made) ? addColumn(design, group.id, made) : design;
            })
          }
        />
      </div>
    </LineSpot>
  );
}
