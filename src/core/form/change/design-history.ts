import { EditHistory } from '../../kernel/edit-history';
import { invertedOne, type DesignChange } from './design-change';

/** What was done to a design: typing on in one setting is one step. */
export const designHistory = (): EditHistory<DesignChange> =>
  new EditHistory({ inverse: invertedOne, joined: joinedSetting });

function joinedSetting(
  last: readonly DesignChange[],
  edits: readonly DesignChange[],
): readonly DesignChange[] | null {
  const [before, after] = [last[0], edits[0]];
  if (last.length !== 1 || edits.length !== 1 || before?.t !== 'set' || after?.t !== 'set') return null;
  if (before.of?.list !== after.of?.list || before.of?.id !== after.of?.id) return null;
  const [field = '', ...more] = Object.keys(after.fields);
  const [was, is] = [before.fields[field], after.fields[field]];
  // A pick is a step each time; only what is typed letter by letter is joined.
  const isTyped = typeof is?.after === 'string' && typeof is.before === 'string';
  if (more.length > 0 || Object.keys(before.fields).length !== 1 || was === undefined || !isTyped)
    return null;
  return [{ ...before, fields: { [field]: { before: was.before, after: is.after } } }];
}
