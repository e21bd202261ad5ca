import { offered } from '../table/choice-list';
import { limits } from '../limits';
import type { JsonSchema } from '../kernel/json-schema';
import { columnKindOf } from './column-kind';
import {
  groupsIn,
  isField,
  isTyped,
  questionsOf,
  type FieldQuestion,
  type FormDesign,
  type Question,
  type RowsQuestion,
} from './design';

/** The answers of a form by their keys, as JSON Schema 2020-12: numbers as numbers, codes for choices, records by their ids. */
export function answersSchema(design: FormDesign): JsonSchema {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: design.title,
    ...objectOf(design, [...questionsOf(design).filter(isOutside)]),
  };
}

const isOutside = (question: Question): boolean => question.kind !== 'rows' || question.within === undefined;

function objectOf(design: FormDesign, questions: readonly Question[]): JsonSchema {
  const asked = questions.filter(
    (one): one is FieldQuestion | RowsQuestion => one.kind === 'rows' || (isField(one) && isTyped(one)),
  );
  const required = asked.filter((one) => one.required && one.askWhen === undefined).map(({ key }) => key);
  return {
    type: 'object',
    properties: Object.fromEntries(asked.map((one) => [one.key, propertyOf(design, one)])),
    ...(required.length > 0 && { required }),
    additionalProperties: false,
  };
}

function propertyOf(design: FormDesign, question: FieldQuestion | RowsQuestion): JsonSchema {
  const words = {
    title: question.label,
    ...(question.hint !== '' && { description: question.hint }),
  };
  if (question.kind === 'rows')
    return {
      ...words,
      type: 'array',
      items: objectOf(design, [...question.columns, ...groupsIn(design, question)]),
      minItems: question.least,
      maxItems: question.most,
    };
  return { ...words, ...typeOf(question) };
}

function typeOf(question: FieldQuestion): JsonSchema {
  switch (columnKindOf(question)) {
    case 'text':
      return {
        type: 'string',
        maxLength: 'long' in question && question.long ? limits.longText : limits.shortText,
      };
    case 'whole':
      return { type: 'integer' };
    case 'decimal':
    case 'money': {
      const decimals = 'decimals' in question ? question.decimals : 0;
      return { type: 'number', ...(decimals === 0 && { multipleOf: 1 }) };
    }
    case 'yes-no':
      return question.kind === 'confirmation' ? { const: true } : { type: 'boolean' };
    case 'date':
      return { type: 'string', format: 'date' };
    case 'time':
      return { type: 'string', format: 'time' };
    case 'date-time':
      return { type: 'string', format: 'date-time' };
    case 'e-mail':
      return { type: 'string', format: 'email' };
    case 'web-address':
      return { type: 'string', format: 'uri' };
    case 'phone':
      return { type: 'string' };
    case 'choice':
      return { oneOf: choicesOf(question) };
    case 'choices':
      return { type: 'array', items: { oneOf: choicesOf(question) }, uniqueItems: true };
    case 'files':
      return {
        type: 'array',
        items: { type: 'string', format: 'uuid' },
        maxItems: 'most' in question ? question.most : limits.files,
      };
    case 'reference':
      return { type: 'string', format: 'uuid' };
  }
}

const choicesOf = (question: FieldQuestion): JsonSchema[] =>
  'choices' in question
    ? offered(question.choices).map(({ code, label }) => ({ const: code, title: label }))
    : [];
