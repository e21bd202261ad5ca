import { isBlank, type Answers } from '../form/answers';

/**
 * Answers put onto a record that is there: what was filled takes the place of what it holds, what was left
 * empty leaves it, and rows come after those it has.
 */
export function ontoRecord(record: Answers, mine: Answers): Answers {
  const filled = Object.fromEntries(Object.entries(mine.values).filter(([, raw]) => !isBlank(raw)));
  const groups = new Set([...Object.keys(record.rows), ...Object.keys(mine.rows)]);
  return {
    values: { ...record.values, ...filled },
    rows: Object.fromEntries(
      [...groups].map((group) => [group, [...(record.rows[group] ?? []), ...(mine.rows[group] ?? [])]]),
    ),
    reasons: { ...record.reasons, ...mine.reasons },
  };
}
