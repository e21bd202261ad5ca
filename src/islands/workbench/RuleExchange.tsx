import { useRef, useState } from 'react';
import { read } from '../../core/expression/read';
import {
  storedScope,
  testsToShown,
  testsToStored,
  toShown,
  toStored,
} from '../../core/expression/stored-text';
import { changeRules } from '../../core/form/rule-edits';
import { newShortId } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { calculatedKind } from '../../core/form/column-kind';
import { calculatedIn } from '../../core/form/design';
import { kinds } from '../../core/table/kinds/list';
import { decisionOf, tableOfDecision, type Decision, type Names } from '../../core/rules/decision';
import type { RuleTable } from '../../core/rules/rules';
import { Download, FileInput } from '../kit/icons';
import { saveFile } from '../kit/save-file';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly bench: Workbench;
  readonly table: RuleTable;
}

/** A table of rules as a DMN file, and one of a file in its place. */
export function RuleExchange({ bench, table }: Props) {
  const chooser = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<readonly string[]>([]);
  const takeIn = async (file: File) => {
    const { decisionsIn, MOST_BYTES } = await import('./dmn-file');
    const found = file.size > MOST_BYTES ? null : await decisionsIn(await file.text());
    const [decision] = found ?? [];
    const trouble =
      decision === undefined ? speak`This file holds no DMN decision table.` : tooMuch(decision);
    if (decision === undefined || trouble !== null) return setSaid([trouble ?? '']);
    const { table: taken, unknown } = tableOfDecision(decision, table, namesOf(bench), newShortId);
    bench.edit((design) => changeRules(design, table.id, () => taken));
    setSaid([
      speak`Taken in: ${taken.rows.length} rows.`,
      ...(unknown.length === 0 ? [] : [speak`Not known here, and left out: ${unknown.join(', ')}.`]),
    ]);
  };
  return (
    <div className="mt-2">
      <p className="flex flex-wrap gap-3">
        <button type="button" className="button-plain" onClick={() => void takeOut(bench, table)}>
          <Download size={14} aria-hidden />
          {speak`Take out as DMN`}
        </button>
        <button type="button" className="button-plain" onClick={() => chooser.current?.click()}>
          <FileInput size={14} aria-hidden />
          {speak`Take in from DMN`}
        </button>
      </p>
      <input
        ref={chooser}
        type="file"
        accept=".dmn,.xml,application/xml,text/xml"
        aria-label={speak`A DMN file for ${table.label}`}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file !== undefined) void takeIn(file);
        }}
      />
      <div role="status" className="text-[14px]">
        {said.map((line) => (
          <p key={line}>{line}</p>
        ))}
      </div>
    </div>
  );
}

async function takeOut(bench: Workbench, table: RuleTable): Promise<void> {
  const { dmnOf } = await import('./dmn-file');
  const xml = await dmnOf(decisionOf(table, namesOf(bench)));
  saveFile(`${table.label}.dmn`, xml);
}

const tooMuch = ({ inputs, rules }: Decision): string | null =>
  inputs.length > limits.ruleConditions || rules.length > limits.ruleRows
    ? speak`A table has ${limits.ruleConditions} conditions and ${limits.ruleRows} rows at most; this one has ${inputs.length} and ${rules.length}.`
    : null;

/** What the standard calls the types a condition may have. */
const typeNames: Readonly<Record<string, string>> = {
  number: 'number',
  text: 'string',
  'yes-no': 'boolean',
  date: 'date',
};

function namesOf({ design, data, scope }: Workbench): Names {
  const names = scope();
  const isTwice = (name: string): boolean => data.people.filter((one) => one.name === name).length > 1;
  return {
    steps: design.steps,
    answers: calculatedIn(design).map((one) => ({
      id: one.id,
      label: one.label,
      type: typeNames[kinds[calculatedKind(one)].type.t] ?? speak`Any`,
    })),
    groups: data.groups,
    people: data.people.map(({ id, name, place }) => ({
      id,
      label: isTwice(name) ? `${name}, ${place}` : name,
    })),
    type: (expression) => {
      const tree = read(expression, storedScope(names));
      return (tree.ok && typeNames[tree.value.type.t]) || speak`Any`;
    },
    shown: (expression) => toShown(expression, names),
    stored: (expression) => toStored(expression, names),
    testShown: (test, of) => testsToShown(test, names, of),
    testStored: (test, of) => testsToStored(test, names, toShown(of, names)),
  };
}
