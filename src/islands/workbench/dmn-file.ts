import { DmnModdle, type Moddle } from 'dmn-moddle';
import { hitPolicies, type HitPolicy } from '../../core/rules/rules';
import type { Decision } from '../../core/rules/decision';

/**
 * Decision tables as DMN 1.5 XML. The library has the model of DMN 1.3, in which decision tables are the
 * same; so its namespace is put in place of that of any other version that is read, and taken away again from
 * what is written.
 */
const NAMESPACE_OF_LIBRARY = 'https://www.omg.org/spec/DMN/20191111/MODEL/';
const NAMESPACE = 'https://www.omg.org/spec/DMN/20230324/MODEL/';
const ANY_NAMESPACE =
  /https?:\/\/www\.omg\.org\/spec\/DMN\/\d{8}\/MODEL\/|http:\/\/www\.omg\.org\/spec\/DMN\/\d{8}\/dmn\.xsd/g;

/** Of a file that is taken in. */
export const MOST_BYTES = 1024 * 1024;

const policies: Readonly<Record<HitPolicy, string>> = {
  U: 'UNIQUE',
  A: 'ANY',
  P: 'PRIORITY',
  F: 'FIRST',
  R: 'RULE ORDER',
  C: 'COLLECT',
};

export async function dmnOf({ name, hit, inputs, outputs, rules }: Decision): Promise<string> {
  const moddle = new DmnModdle();
  const make = (type: string, fields: object): object => moddle.create(`dmn:${type}`, fields);
  const text = (type: string, said: string, more = {}): object => make(type, { text: said, ...more });
  const logic = make('DecisionTable', {
    id: 'table',
    hitPolicy: policies[hit],
    input: inputs.map(({ expression, type }, i) =>
      make('InputClause', {
        id: `input_${i + 1}`,
        label: expression,
        inputExpression: text('LiteralExpression', expression, { typeRef: type }),
      }),
    ),
    output: outputs.map(({ name: label, type, values }, i) =>
      make('OutputClause', {
        id: `output_${i + 1}`,
        name: label,
        typeRef: type,
        ...(values !== undefined && { outputValues: text('UnaryTests', values.join(', ')) }),
      }),
    ),
    rule: rules.map(({ tests, gives }, i) =>
      make('DecisionRule', {
        id: `rule_${i + 1}`,
        inputEntry: tests.map((test) => text('UnaryTests', test)),
        outputEntry: gives.map((given) => text('LiteralExpression', given)),
      }),
    ),
  });
  const decision = make('Decision', {
    id: 'decision',
    name,
    variable: make('InformationItem', { id: 'variable', name }),
    decisionLogic: logic,
  });
  const definitions = make('Definitions', {
    id: 'definitions',
    name,
    namespace: 'urn:tidy-slate:rules',
    drgElement: [decision],
  });
  const { xml } = await moddle.toXML(definitions, { format: true });
  return xml.replaceAll(NAMESPACE_OF_LIBRARY, NAMESPACE);
}

/** The decision tables of a file, in its order. Null for what is no DMN. */
export async function decisionsIn(xml: string): Promise<readonly Decision[] | null> {
  const moddle = new DmnModdle();
  try {
    const { rootElement } = await moddle.fromXML(
      xml.replace(ANY_NAMESPACE, NAMESPACE_OF_LIBRARY),
      'dmn:Definitions',
    );
    return (rootElement.drgElement ?? []).flatMap(({ name, decisionLogic }) =>
      decisionLogic?.$type === 'dmn:DecisionTable' ? [decisionFrom(name ?? '', decisionLogic)] : [],
    );
  } catch {
    // The library throws for whatever is no XML, or has another root.
    return null;
  }
}

function decisionFrom(name: string, table: Moddle.DecisionTable): Decision {
  const textOf = (of: { readonly text?: string } | undefined): string => (of?.text ?? '').trim();
  const outputs = table.output ?? [];
  return {
    name,
    hit: hitPolicies.find((one) => policies[one] === (table.hitPolicy ?? 'UNIQUE')) ?? 'C',
    inputs: (table.input ?? []).map(({ inputExpression }) => ({
      expression: textOf(inputExpression),
      type: inputExpression?.typeRef ?? 'Any',
    })),
    outputs: outputs.map(({ name: output, label, typeRef, outputValues }) => ({
      name: output ?? label ?? '',
      type: typeRef ?? 'Any',
      ...(outputValues !== undefined && { values: listed(textOf(outputValues)) }),
    })),
    rules: (table.rule ?? []).map(({ inputEntry, outputEntry }) => ({
      tests: (inputEntry ?? []).map(textOf),
      gives: (outputEntry ?? []).map(textOf),
    })),
  };
}

/** Values set apart by commas, outside texts and lists. */
const listed = (text: string): string[] =>
  [...text.matchAll(/(?:"(?:[^"\\]|\\.)*"|\[(?:"(?:[^"\\]|\\.)*"|[^\]"])*\]|[^,"[])+/g)].map(([one]) =>
    one.trim(),
  );
