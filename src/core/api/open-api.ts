import { answersSchema } from '../form/answers-schema';
import type { JsonSchema } from '../kernel/json-schema';
import { limits } from '../limits';
import { headers, parameters, problemAnswer, problemSchema, withoutMeta } from './components';
import { eventSchema, feed } from './event-paths';
import { oneSubmission, pathsOfForm, submissionSchema, type ReachedForm } from './form-paths';
import { pathsOfTable, schemasOfTable, type ReachedTable } from './table-paths';

/** What a token reaches, as a document describes it. */
export interface Reach {
  /** What the workspace is called, and where it is reached. */
  readonly title: string;
  readonly origin: string;
  readonly tables: readonly ReachedTable[];
  readonly forms: readonly ReachedForm[];
  /** Whether it sees every submission of any form. */
  readonly follows: boolean;
}

/** Where the API begins, under the address of the workspace. */
export const API = '/api/v1';

/** The API as OpenAPI 3.1 describes it, for whoever has a token that reaches this. */
export const openApi = ({ title, origin, tables, forms, follows }: Reach): JsonSchema => ({
  openapi: '3.1.0',
  info: {
    title: title === '' ? 'Tidy Slate' : title,
    version: '1',
    description: ABOUT,
  },
  servers: [{ url: `${origin}${API}` }],
  security: [{ token: [] }],
  tags: [
    ...tables.map(({ table }) => ({ name: table.label })),
    ...forms.map(({ design }) => ({ name: design.title })),
    { name: 'Events' },
  ],
  paths: {
    ...Object.assign({}, ...tables.map(pathsOfTable)),
    ...Object.assign({}, ...forms.map(pathsOfForm)),
    ...((forms.length > 0 || follows) && { '/submissions/{id}': { get: oneSubmission } }),
    ...((tables.length > 0 || follows) && { '/events': { get: feed } }),
  },
  components: {
    securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
    parameters,
    headers,
    responses: { Problem: problemAnswer },
    schemas: {
      Problem: problemSchema,
      Submission: submissionSchema,
      Event: eventSchema,
      ...Object.assign({}, ...tables.map(schemasOfTable)),
      ...Object.fromEntries(
        forms.map(({ key, design }) => [`${key}.answers`, withoutMeta(answersSchema(design))]),
      ),
    },
  },
});

const ABOUT = `Whatever goes wrong is told as a problem document (RFC 9457), each issue with its place. Records carry their version as an ETag; a change says with \`If-Match\` which version it began from. What is sent with the same \`Idempotency-Key\` is done once. At most ${limits.tokenPerMinute} requests in a minute for each token.`;
