import type { AskedKind } from './edit';

const hints: readonly [RegExp, AskedKind][] = [
  [/\be-?mail\b/i, 'e-mail'],
  [/\b(phone|telephone|mobile)\b/i, 'phone'],
  [/^who\b|\bby whom\b|\b(responsible|colleague|person in charge)\b/i, 'person'],
  [/\b(photos?|pictures?|attachments?|files?)\b/i, 'files'],
  [/\b(website|web address|link)\b/i, 'web-address'],
  [/\b(time of day|at what time|what time)\b|\btime$/i, 'time'],
  [/^(how many|number of|count of|quantity)\b/i, 'whole'],
  [/^(how much|how long|how far)\b|\b(area|rate|weight|length|height|amount|price|cost|total)\b/i, 'decimal'],
  [/^when\b|\b(date|day|on)$|\bdate\b/i, 'date'],
  [/\b(all|everything) that appl(y|ies)\b/i, 'choices'],
  [/\bI (confirm|agree|have read)\b|^(confirm|agree)\b/i, 'confirmation'],
  [/^(is|are|was|were|will|does|do|did|has|have|can|may|should)\b/i, 'yes-no'],
  [/^(which|what kind|what sort|how does)\b|\b(state|kind|type|category)$/i, 'choice'],
  [/\b(notes?|remarks?|describe|description|explain|what did)\b/i, 'text'],
];

/** The kind of answer a question most likely wants, from its wording alone. */
export function suggestKind(label: string): AskedKind {
  return hints.find(([pattern]) => pattern.test(label.trim()))?.[1] ?? 'text';
}
