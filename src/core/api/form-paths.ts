import type { FormDesign } from '../form/design';
import type { JsonSchema } from '../kernel/json-schema';
import { json, problems, ref } from './components';

/** A form that a token fills, or whose submissions it follows. */
export interface ReachedForm {
  readonly key: string;
  readonly design: FormDesign;
}

export const submissionSchema: JsonSchema = {
  type: 'object',
  properties: {
    id: { type: 'string', format: 'uuid' },
    number: { type: ['string', 'null'] },
    state: { type: 'string', enum: ['draft', 'waiting', 'sent-back', 'declined', 'withdrawn', 'kept'] },
    version: { type: 'integer' },
    record: {
      type: ['string', 'null'],
      format: 'uuid',
      description: 'The record it became, once it is kept',
    },
    last_word: { type: ['string', 'null'], description: 'What was said with the last decision' },
  },
  required: ['id', 'number', 'state', 'version', 'record', 'last_word'],
};

const submissionAnswer = (description: string) => ({
  description,
  content: json(ref('schemas', 'Submission')),
});

export const oneSubmission = {
  operationId: 'submissions.read',
  summary: 'How a submission stands',
  parameters: [ref('parameters', 'id')],
  responses: { 200: submissionAnswer('The submission'), ...problems },
};

export const pathsOfForm = ({ key, design }: ReachedForm): Record<string, JsonSchema> => ({
  [`/forms/${key}/submissions`]: {
    post: {
      operationId: `${key}.send`,
      tags: [design.title],
      summary: `Fills ${design.title}: sends it, or sets it aside as a draft`,
      parameters: [ref('parameters', 'Idempotency-Key')],
      requestBody: {
        required: true,
        content: json({
          type: 'object',
          properties: {
            answers: ref('schemas', `${key}.answers`),
            reasons: {
              type: 'object',
              description: 'Where a check asks for a reason: the reason, by the check its issue names',
              additionalProperties: { type: 'string' },
            },
            draft: { type: 'boolean', default: false, description: 'Kept, but not sent yet' },
          },
          required: ['answers'],
          additionalProperties: false,
        }),
      },
      responses: { 201: submissionAnswer('It is sent, or set aside'), ...problems },
    },
  },
});
