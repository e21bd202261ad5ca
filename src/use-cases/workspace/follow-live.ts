import { may, mayForm } from '../../core/catalogue/catalogue';
import { ok, type Result } from '../../core/kernel/result';
import type { Refusal } from '../../core/kernel/refusal';
import { listen } from '../../data/live';
import { readImport } from '../../data/system/imports';
import { readSubmission } from '../../data/system/submissions';
import { readChange } from '../../data/system/table-changes';
import { asPerson } from '../../data/transaction';
import type { Context } from './asking';

export interface Following {
  readonly stop: () => void;
  /** Asks again which topics the person may follow: rights are taken away, too. */
  readonly look: () => Promise<void>;
}

/** Tells of changes in the topics this person may follow, and of changes of rights; others are left out without a word. */
export async function followLive(
  context: Context,
  topics: readonly string[],
  told: (topic: string) => void,
): Promise<Result<Following, Refusal>> {
  const found = await allowedTopics(context, topics);
  if (!found.ok) return found;
  let allowed = found.value;
  const stop = listen((topic) => {
    // What is told of a topic stands behind it.
    if (allowed.has(topic.split(' ', 1)[0] ?? '')) told(topic);
  });
  return ok({
    stop,
    look: async () => {
      const now = await allowedTopics(context, topics);
      if (now.ok) allowed = now.value;
    },
  });
}

function allowedTopics(context: Context, topics: readonly string[]): Promise<Result<Set<string>, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const found = new Set<string>([`person:${context.person.id}`, 'again', 'rights', 'forms', 'lists']);
    for (const topic of topics.filter((one) => one.includes(':'))) {
      const [what, id = ''] = topic.split(':');
      const read = (): Promise<unknown> =>
        what === 'import'
          ? readImport(tx, id)
          : what === 'change'
            ? readChange(tx, catalogue, id)
            : readSubmission(tx, id);
      const follows =
        what === 'table'
          ? may(catalogue, context.person.id, 'see', id)
          : what === 'form'
            ? mayForm(catalogue, context.person.id, 'design', id)
            : (await read()) !== null;
      if (follows) found.add(topic);
    }
    return ok(found);
  });
}
