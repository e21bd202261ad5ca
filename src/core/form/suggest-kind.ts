import type { QuestionKind } from './design';

const hints: readonly [RegExp, QuestionKind][] = [
  [/\be-?mail\b/i, 'e-mail'],
  [/\b(phone|telephone|mobile)\b/i, 'phone'],
  [/\b(website|web address|link)\b/i, 'web-address'],
  [/\b(time of day|at what time|what time)\b|\btime$/i, 'time'],
  [/^(how many|number of|count of|quantity)\b/i, 'whole'],
  [/^(how much|how long|how far)\b|\b(area|rate|weight|length|height|amount|price|cost|total)\b/i, 'decimal'],
  [/^when\b|\b(date|day|on)$|\bdate\b/i, 'date'],
  [/^(is|are|was|were|will|does|do|did|has|have|can|may|should)\b/i, 'yes-no'],
  [/^(which|what kind|what sort|how does)\b|\b(state|kind|type|category)$/i, 'choice'],
  [/\b(notes?|remarks?|describe|description|explain|what did)\b/i, 'text'],
];

/** The kind of answer a question most likely wants, from its wording alone. */
export function suggestKind(label: string): QuestionKind {
  return hints.find(([pattern]) => pattern.test(label.trim()))?.[1] ?? 'text';
}
