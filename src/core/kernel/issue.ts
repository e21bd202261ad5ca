/**
 * What is wrong with something a person wrote, as data. The sentence is made in `wording/`.
 *
 * `path` names the place: `[questionId]`, `[groupId, rowId, columnId]`, or the keys of a request's body. Each
 * code has facts of its own; what the thing at the place is called, its `label`, may be added where it is
 * known.
 */
export type Issue = { readonly [Code in IssueCode]: IssueOf<Code> }[IssueCode];

interface IssueOf<Code extends IssueCode> {
  readonly code: Code;
  readonly path: readonly (string | number)[];
  readonly facts: IssueFacts[Code] & Facts;
}

export type Fact = string | number | boolean | null;
export type Facts = Readonly<Record<string, Fact>>;

/** A code that says everything by itself. */
type None = object;
type With<Names extends string, May extends string = never> = Readonly<Record<Names, Fact>> &
  Readonly<Partial<Record<May, Fact>>>;

/** Of answers, and of records that are changed directly. */
export interface AnswerFacts {
  readonly required: None;
  readonly 'too-long': With<never, 'given' | 'most'>;
  readonly 'not-text': None;
  readonly 'not-whole': None;
  readonly 'not-a-number': With<never, 'comma'>;
  readonly 'number-too-large': With<never, 'most'>;
  readonly 'too-many-decimals': With<never, 'most'>;
  readonly 'not-a-date': None;
  readonly 'not-yes-no': None;
  readonly 'not-a-choice': None;
  readonly 'not-confirmed': None;
  readonly 'not-files': None;
  readonly 'too-many-files': With<'given' | 'most'>;
  readonly 'file-gone': None;
  readonly 'file-type': None;
  readonly 'not-a-photo': None;
  readonly 'file-broken': None;
  readonly 'files-waiting': None;
  readonly 'not-a-record': None;
  readonly 'record-gone': None;
  readonly 'record-not-found': With<'text'>;
  readonly 'pick-misfits': With<'record'>;
  readonly 'too-few-rows': With<'least'>;
  readonly 'too-many-rows': With<'given' | 'most'>;
  readonly 'row-repeated': With<'row'>;
  readonly 'check-stops': With<'message'>;
  readonly 'reason-needed': With<'message'>;
  readonly 'already-used': None;
  readonly 'unknown-answer': None;
  readonly 'not-a-time': None;
  readonly 'not-a-date-time': None;
  readonly 'not-an-e-mail': None;
  readonly 'not-a-web-address': None;
  readonly 'not-a-phone': None;
  readonly 'edit-not-allowed': With<'action' | 'table'>;
  readonly 'record-not-yours': With<'action' | 'table'>;
  readonly 'beyond-your-records': With<'table'>;
  readonly 'table-gone': None;
  readonly 'record-not-there': With<'table'>;
  readonly 'record-changed': None;
  readonly 'record-removed': None;
  /** The numbers of some that name it, empty where they are not to be seen; `count` of them all, as far as was counted. */
  readonly 'record-named': With<'record' | 'table' | 'count'>;
  readonly 'value-changed': None;
  readonly 'row-changed': With<'line'>;
  readonly 'nothing-changed': None;
  readonly 'choice-retired': With<'choice'>;
  readonly 'column-calculated': None;
  readonly 'column-locked': None;
  readonly 'column-restricted': With<'label'>;
  readonly 'value-for-all': None;
  /** `record` is its number where it may be seen, `id` where it may be changed; else they are empty. */
  readonly 'record-found': With<'record' | 'id'>;
  /** Of a stock: what is there, and what would be taken away. */
  readonly 'too-little': With<'record' | 'there' | 'asked'>;
}

/** Of designs, passwords and requests. */
export interface DesignFacts {
  readonly 'checks-contradict': With<'other'>;
  readonly 'check-never-holds': None;
  readonly 'check-never-reached': None;
  readonly 'condition-never': None;
  readonly 'required-never-asked': None;
  readonly 'carry-lookup': None;
  readonly 'carry-kind': None;
  readonly 'existing-columns': None;
  readonly 'label-missing': None;
  readonly 'label-too-long': With<'most'>;
  readonly 'key-invalid': With<'key' | 'most'>;
  readonly 'key-taken': With<'key'>;
  readonly 'key-reserved': With<'key'>;
  readonly 'choices-missing': None;
  readonly 'choice-label-missing': None;
  readonly 'choice-repeated': None;
  readonly 'table-unknown': None;
  readonly 'columns-missing': None;
  readonly 'row-limits': With<'most'>;
  readonly 'rows-within': None;
  readonly 'rows-within-begin': None;
  readonly 'starts-lookup': None;
  readonly 'starts-unread': With<'row' | 'label'>;
  readonly 'questions-missing': None;
  readonly 'text-missing': None;
  readonly 'hidden-empty': None;
  readonly 'finds-gone': None;
  readonly 'further-lookup': None;
  readonly 'further-table': None;
  readonly 'further-rows': None;
  readonly 'further-row': With<'table'>;
  readonly 'further-people': None;
  readonly 'further-nothing': None;
  readonly 'further-column': With<'table'>;
  readonly 'further-twice': None;
  readonly 'further-number': None;
  readonly 'further-empty': None;
  readonly 'further-missing': None;
  readonly 'opening-order': None;
  readonly 'approver-missing': With<'step'>;
  readonly 'approvers-too-few': With<'step' | 'wanted'>;
  readonly 'approver-unknown': With<'step'>;
  readonly 'check-message-missing': None;
  readonly 'check-place': None;
  readonly 'check-column': None;
  readonly 'formula-circle': With<'label'>;
  readonly 'formula-kind': With<'label'>;
  readonly 'formula-fixed': With<'label'>;
  readonly 'formula-breaks': With<'table' | 'why'>;
  readonly 'check-empty': None;
  readonly 'table-check-breaks': With<'table' | 'why'>;
  readonly 'table-key-taken': With<'key'>;
  readonly 'kind-changed': With<'before'>;
  readonly 'column-clash': With<'key' | 'table'>;
  readonly 'table-no-pick': None;
  readonly 'table-of-another': With<'table'>;
  readonly 'table-not-open': With<'table'>;
  readonly 'table-way-in': With<'others' | 'table'>;
  readonly 'table-written-beside': With<'table' | 'adds' | 'changes'>;
  readonly 'table-closed': With<'table'>;
  readonly 'prefix-invalid': None;
  readonly 'not-a-site': With<'given'>;
  readonly 'day-is-over': None;
  readonly 'too-many': With<'most' | 'what'>;
  readonly 'default-kind': None;
  readonly 'default-choice': With<'codes'>;
  readonly 'together-too-few': None;
  readonly 'duty-why': None;
  readonly 'cannot-be-emptied': { readonly label: string; readonly table: string };
  readonly 'match-unfinished': None;
  readonly 'retire-first': None;
  readonly 'column-retired': With<'table'>;
  readonly 'values-misfit': With<'examples' | 'rows'>;
  readonly 'values-repeated': With<'examples' | 'rows'>;
  readonly 'form-breaks': With<'form' | 'why'>;
  readonly 'form-writes': With<'form'>;
  readonly 'not-found-there': None;
  readonly 'change-stopped': With<'why'>;
  readonly malformed: With<never, 'detail'>;
  readonly missing: None;
  readonly 'word-needed': With<'decision'>;
  readonly 'nobody-to-ask': With<'own' | 'step'>;
  readonly 'nobody-named': With<'step'>;
  readonly 'nobody-at-place': With<'step'>;
  readonly 'soon-too-early': With<'step'>;
  readonly 'corrects-nothing': None;
  readonly 'move-to-oneself': None;
  readonly 'move-to-no-step': None;
  readonly 'rules-undecided': With<'step' | 'rules'>;
  readonly 'rules-empty': With<'rules'>;
  readonly 'rules-fill-several': With<'rules'>;
  readonly 'rule-choice-unknown': With<'text' | 'choices'>;
  readonly 'rule-asks-nobody': With<'row' | 'step'>;
  readonly 'too-few-to-ask': With<'own' | 'step' | 'found' | 'wanted'>;
  readonly 'password-length': With<'least' | 'most'>;
  readonly 'password-common': None;
  readonly 'password-wrong': None;
  readonly 'code-wrong': None;
  readonly 'no-provider-there': None;
  readonly 'secret-needed': None;
  readonly 'own-codes': None;
  readonly 'list-wrong': None;
  readonly 'codes-already': None;
}

/** Of people and groups. */
export interface PeopleFacts {
  readonly 'email-taken': With<'name'>;
  readonly 'not-a-colleague': None;
  readonly 'manager-circle': With<'name'>;
  readonly 'own-access': None;
  readonly 'return-to-earlier': None;
  readonly 'hand-over-to-sender': None;
  readonly 'hand-over-to-asked': None;
  readonly 'back-before-away': None;
  readonly 'away-in-the-past': None;
  readonly 'away-already': With<'from' | 'until'>;
  readonly 'stands-in-for-self': None;
  readonly 'last-administrator': None;
  readonly 'group-in-itself': None;
  readonly 'group-label-taken': None;
  readonly 'group-gone': None;
  readonly 'nobody-designs': None;
  readonly 'rule-not-here': None;
  readonly 'rule-circle': With<'table'>;
  readonly 'restricted-directory': None;
  readonly 'restricted-title': With<'label'>;
  readonly 'restricted-files': With<'label'>;
  /** `table`: of which records the rule says who sees them. */
  readonly 'restricted-rule': With<'label' | 'table'>;
  /** The calculated column; its table where it is another's. */
  readonly 'restricted-read': With<'label' | 'table'>;
  readonly 'nobody-fills': None;
  readonly 'token-nothing': None;
  readonly 'token-lasts': With<'most'>;
  readonly 'token-beyond': With<'what'>;
  readonly 'if-match': None;
  readonly 'events-gone': With<'gone'>;
  readonly 'events-nothing': None;
  readonly 'events-beyond': With<'what'>;
  readonly 'event-url': None;
  readonly 'event-url-plain': None;
  readonly 'event-url-inside': None;
  readonly 'event-url-nowhere': None;
  readonly 'event-addresses': With<'most'>;
  readonly 'zone-unknown': None;
  readonly 'currency-unknown': None;
  readonly 'no-workdays': None;
  readonly 'closes-before-opening': None;
  readonly 'place-unknown': None;
  readonly 'closed-too-long': With<'most'>;
}

/** Of choice lists and sources. */
export interface OutsideFacts {
  readonly 'choice-held': With<'choice' | 'where'>;
  readonly 'choice-not-in-list': With<'choices' | 'list'>;
  readonly 'list-lacks': With<'choices' | 'list'>;
  readonly 'list-label-taken': With<'list'>;
  readonly 'list-used': With<'where'>;
  readonly 'linked-structure': With<'source'>;
  readonly 'linked-required': With<'source'>;
  readonly 'linked-no-adding': With<'source' | 'table'>;
  readonly 'source-silent': With<'source'>;
  readonly 'source-refused': With<'source', 'rule'>;
  readonly 'source-changed': With<'source' | 'table'>;
  readonly 'source-fixed': With<'source' | 'table'>;
  readonly 'address-invalid': None;
  readonly 'address-inside': None;
  readonly 'secret-missing': None;
  readonly 'source-failed': With<'source' | 'why'>;
  readonly 'not-linkable': With<'table' | 'why'>;
  readonly 'source-used': With<'tables'>;
}

/** Of expressions. */
export interface ExpressionFacts {
  readonly 'expression-empty': None;
  readonly 'expression-too-long': With<'most'>;
  readonly 'expression-broken': None;
  readonly 'expression-unsupported': With<'text'>;
  readonly 'expression-too-deep': With<'most'>;
  readonly 'bracket-open': With<'bracket'>;
  readonly 'bracket-stray': With<'bracket'>;
  readonly slip: With<'given' | 'meant'>;
  readonly 'unknown-name': With<'name', 'meant'>;
  readonly 'unknown-function': With<'name', 'meant'>;
  readonly 'unknown-column': With<'name', 'meant'>;
  readonly 'name-twice': With<'name'>;
  readonly 'not-a-path': With<'given' | 'name'>;
  readonly 'not-a-list': With<'given'>;
  readonly 'not-a-condition': With<'given'>;
  readonly 'not-a-moment': With<'text'>;
  readonly 'not-a-duration': None;
  readonly 'number-too-long': With<'most'>;
  readonly 'wrong-type': With<'given' | 'wanted'>;
  readonly 'list-where-one': With<'given' | 'wanted'>;
  readonly 'argument-count': With<'given' | 'least' | 'most' | 'name'>;
  readonly circular: With<'circle'>;
  readonly 'result-type': With<'given' | 'wanted'>;
  readonly 'too-many-steps': None;
  readonly 'sheet-too-heavy': With<'given' | 'most'>;
  readonly 'not-in-sql': With<'what'>;
}

export interface IssueFacts extends AnswerFacts, DesignFacts, PeopleFacts, OutsideFacts, ExpressionFacts {}
export type IssueCode = keyof IssueFacts;

/** Facts are left out where the code needs none. */
type Given<Code extends IssueCode> = object extends IssueFacts[Code]
  ? [facts?: IssueFacts[Code] & Facts]
  : [facts: IssueFacts[Code] & Facts];

export function issue<Code extends IssueCode>(
  code: Code,
  path: Issue['path'],
  ...[facts]: Given<Code>
): Issue {
  // One code with its own facts is one of the union, which the compiler does not see of a code it does not know.
  return { code, path, facts: facts ?? {} } as Issue;
}

/** The same issue, with more that is known of its place. */
export const withFacts = (one: Issue, more: Facts): Issue =>
  ({ ...one, facts: { ...one.facts, ...more } }) as Issue;

export const under = (path: Issue['path'], issues: readonly Issue[]): Issue[] =>
  issues.map((one) => ({ ...one, path: [...path, ...one.path] }));
