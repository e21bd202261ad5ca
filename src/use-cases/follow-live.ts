import { ok, type Result } from '../core/kernel/result';
import type { Refusal } from '../core/kernel/refusal';
import { listen } from '../data/live';
import { maySee } from '../data/runtime/tables';
import { readImport } from '../data/system/imports';
import { readSubmission } from '../data/system/submissions';
import { readChange } from '../data/system/table-changes';
import { asPerson } from '../data/transaction';
import type { Context } from './asking';

/** Tells of changes in the topics this person may follow; others are left out without a word. */
export async function followLive(
  context: Context,
  topics: readonly string[],
  told: (topic: string) => void,
): Promise<Result<() => void, Refusal>> {
  const allowed = await asPerson({ person: context.person.id }, async (tx) => {
    const found = new Set<string>([`person:${context.person.id}`, 'again', 'forms', 'lists']);
    for (const topic of topics.filter((one) => one.includes(':'))) {
      const [what, id = ''] = topic.split(':');
      const read = what === 'import' ? readImport : what === 'change' ? readChange : readSubmission;
      const may = what === 'table' ? await maySee(tx, id) : (await read(tx, id)) !== null;
      if (may) found.add(topic);
    }
    return ok(found);
  });
  if (!allowed.ok) return allowed;
  return ok(
    listen((topic) => {
      if (allowed.value.has(topic)) told(topic);
    }),
  );
}
