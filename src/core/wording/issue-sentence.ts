import type { Issue, IssueCode, IssueFacts } from '../kernel/issue';
import { answerSentences } from './issues/answers';
import { designSentences } from './issues/designs';
import { expressionSentences } from './issues/expressions';
import { outsideSentences } from './issues/outside';
import { peopleSentences } from './issues/people';
import type { Sentences } from './issues/sentences';
import { named, words } from './issues/words';

const sentences: Sentences<IssueFacts> = {
  ...answerSentences,
  ...designSentences,
  ...peopleSentences,
  ...outsideSentences,
  ...expressionSentences,
};

/** Every code there is. */
export const issueCodes = Object.keys(sentences) as readonly IssueCode[];

/**
 * The sentence for an issue: what is wrong and what to do. A code without its sentence, and a sentence
 * without its facts, fail to compile.
 */
export function issueSentence({ code, facts }: Issue): string {
  const say = sentences[code] as (facts: IssueFacts[IssueCode] & { label: string }) => string;
  // An issue carries the facts of its own code, which the compiler cannot follow through the table.
  return say({ ...facts, label: named(words(facts.label)) });
}
