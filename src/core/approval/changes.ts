import { isBlank, isBlankRow, type AnswerRow, type Answers, type Raw } from '../form/answers';

/**
 * What changed between two sendings, by place: `question`, or `group/row/question`. The old typed answer is
 * kept to be shown struck through.
 */
export interface AnswerChanges {
  readonly fields: ReadonlyMap<string, Raw>;
  /** Row ids that came, by group. */
  readonly added: ReadonlySet<string>;
  /** Rows that went, by group, to be shown struck through. */
  readonly removed: ReadonlyMap<string, readonly AnswerRow[]>;
  readonly count: number;
}

export const cellKey = (group: string, row: string, question: string): string =>
  `${group}/${row}/${question}`;

export function answerChanges(before: Answers, after: Answers): AnswerChanges {
  const fields = new Map<string, Raw>();
  const added = new Set<string>();
  const removed = new Map<string, readonly AnswerRow[]>();
  compare(before.values, after.values, (id) => id, fields);
  for (const group of new Set([...Object.keys(before.rows), ...Object.keys(after.rows)])) {
    const old = (before.rows[group] ?? []).filter((row) => !isBlankRow(row));
    const now = (after.rows[group] ?? []).filter((row) => !isBlankRow(row));
    for (const row of now) {
      const was = old.find(({ id }) => id === row.id);
      if (was === undefined) added.add(row.id);
      else compare(was.cells, row.cells, (id) => cellKey(group, row.id, id), fields);
    }
    const gone = old.filter(({ id }) => !now.some((row) => row.id === id));
    if (gone.length > 0) removed.set(group, gone);
  }
  const count = fields.size + added.size + [...removed.values()].reduce((all, rows) => all + rows.length, 0);
  return { fields, added, removed, count };
}

function compare(
  before: Readonly<Record<string, Raw>>,
  after: Readonly<Record<string, Raw>>,
  key: (id: string) => string,
  into: Map<string, Raw>,
): void {
  for (const id of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const [was = null, is = null] = [before[id], after[id]];
    if (was !== is && !(isBlank(was) && isBlank(is))) into.set(key(id), was);
  }
}
