import { changeSection, dissolveSection, moveSection } from '../../core/form/change/arrange';
import type { Section } from '../../core/form/design';
import { ExpressionInput } from '../kit/ExpressionInput';
import { LabelBox, LineMoves } from '../kit/LineSettings';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** The settings of a section, as sentences. */
export function SectionMargin({ bench, section }: { bench: Workbench; section: Section }) {
  const change = (part: Partial<Section>) => bench.edit((design) => changeSection(design, section.id, part));
  const alone = bench.design.sections.length === 1;
  return (
    <section className="margin-part first" aria-label={speak`The section`}>
      <LabelBox
        label={speak`Title of the section, here too`}
        value={section.title}
        onChange={(title) => change({ title })}
      />
      <Sentence>{speakIn`Its questions stand in ${(
        <Select
          label={speak`Columns of the section`}
          value={section.columns === 2 ? '2' : '1'}
          choices={[
            { value: '1', label: speak`one column` },
            { value: '2', label: speak`two columns` },
          ]}
          onChange={(value) => change({ columns: value === '2' ? 2 : undefined })}
        />
      )}`}</Sentence>
      <Sentence>{speakIn`It is shown ${(
        <Select
          label={speak`When the section is shown`}
          value={section.showWhen === undefined ? 'always' : 'when'}
          choices={[
            { value: 'always', label: speak`always` },
            { value: 'when', label: speak`only while` },
          ]}
          onChange={(value) => change({ showWhen: value === 'when' ? '' : undefined })}
        />
      )}`}</Sentence>
      {section.showWhen !== undefined && (
        <ExpressionInput
          key={section.id}
          label={speak`The section is shown while`}
          stored={section.showWhen}
          scope={bench.scope()}
          example="path_closed = true"
          onChange={(showWhen) => change({ showWhen })}
        />
      )}
      <LineMoves
        removal={alone ? null : speak`Take the section out, not its questions`}
        onMove={(by) => bench.edit((design) => moveSection(design, section.id, by))}
        onRemove={() => {
          bench.edit((design) => dissolveSection(design, section.id));
          bench.select(null);
        }}
      />
    </section>
  );
}
