/**
 * What is wrong with something a person wrote, as data. The sentence is made in `wording/`.
 *
 * `path` names the place: `[questionId]`, `[groupId, rowId, columnId]`, or the keys of a request's body.
 */
export interface Issue {
  readonly code: IssueCode;
  readonly path: readonly (string | number)[];
  readonly facts: Facts;
}

export type Facts = Readonly<Record<string, string | number | boolean | null>>;

/** Every code has its sentence in `wording/issue-sentence.ts`, held by the compiler. */
export const issueCodes = [
  // answers
  'required',
  'too-long',
  'not-text',
  'not-whole',
  'not-a-number',
  'number-too-large',
  'too-many-decimals',
  'not-a-date',
  'not-yes-no',
  'not-a-choice',
  'not-a-record',
  'record-gone',
  'record-not-found',
  'too-few-rows',
  'too-many-rows',
  'check-stops',
  'reason-needed',
  'already-used',
  'unknown-answer',
  'not-a-time',
  'not-a-date-time',
  'not-an-e-mail',
  'not-a-web-address',
  'not-a-phone',
  // expressions
  'expression-empty',
  'expression-too-long',
  'expression-broken',
  'expression-unsupported',
  'expression-too-deep',
  'bracket-open',
  'bracket-stray',
  'slip',
  'unknown-name',
  'unknown-function',
  'unknown-column',
  'name-twice',
  'not-a-path',
  'not-a-list',
  'not-a-condition',
  'not-a-moment',
  'not-a-duration',
  'number-too-long',
  'wrong-type',
  'list-where-one',
  'argument-count',
  'circular',
  'result-type',
  'too-many-steps',
  'sheet-too-heavy',
  'not-in-sql',
  // findings
  'checks-contradict',
  'check-never-holds',
  'check-never-reached',
  'condition-never',
  'required-never-asked',
  'carry-lookup',
  'carry-kind',
  'existing-columns',
  // designs
  'label-missing',
  'label-too-long',
  'key-invalid',
  'key-taken',
  'key-reserved',
  'choices-missing',
  'choice-label-missing',
  'choice-repeated',
  'table-unknown',
  'columns-missing',
  'row-limits',
  'questions-missing',
  'approver-missing',
  'approver-unknown',
  'check-message-missing',
  'check-place',
  'table-key-taken',
  'kind-changed',
  'column-clash',
  'table-no-pick',
  'table-of-another',
  'table-not-open',
  'table-way-in',
  'table-closed',
  'prefix-invalid',
  'too-many',
  // tables
  'default-kind',
  'default-choice',
  'together-too-few',
  'retire-first',
  'column-retired',
  'values-misfit',
  'values-repeated',
  'form-breaks',
  'form-writes',
  'not-found-there',
  'change-stopped',
  // choice lists
  'choice-retired',
  'choice-held',
  'choice-not-in-list',
  'list-lacks',
  'list-label-taken',
  'list-used',
  // what is linked
  'linked-structure',
  'linked-required',
  'linked-no-adding',
  'source-silent',
  'source-refused',
  'source-changed',
  'source-fixed',
  'address-invalid',
  'address-inside',
  'secret-missing',
  'source-failed',
  'not-linkable',
  'source-used',
  // requests
  'malformed',
  'missing',
  'word-needed',
  'nobody-to-ask',
  'password-length',
  'password-common',
  'password-wrong',
] as const;
export type IssueCode = (typeof issueCodes)[number];

export const issue = (code: IssueCode, path: Issue['path'], facts: Facts = {}): Issue => ({
  code,
  path,
  facts,
});
export const under = (path: Issue['path'], issues: readonly Issue[]): Issue[] =>
  issues.map((one) => ({ ...one, path: [...path, ...one.path] }));
