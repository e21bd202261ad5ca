import { listOf, TEXT } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { isUuid } from '../../kernel/ids';
import { fail, ok } from '../../kernel/result';
import { limits } from '../../limits';
import type { Kind } from './kind';
import { listStored, storedList, textsOf } from './stored-list';
import { speak } from '../../wording/speak';

/** Photos or files by their ids, in the order they were brought. Expressions count them. */
export const files: Kind = {
  type: listOf(TEXT),
  columnType: () => 'uuid[]',
  read(raw, { most = limits.files }) {
    const ids = typeof raw === 'string' ? listStored(raw) : null;
    if (ids === null || !ids.every(isUuid) || new Set(ids).size < ids.length)
      return fail(issue('not-files', []));
    if (ids.length > most) return fail(issue('too-many-files', [], { most, given: ids.length }));
    return ok(ids.length === 0 ? null : ids);
  },
  write: (value) => storedList(textsOf(value)),
  show(value) {
    const { length } = textsOf(value);
    return length === 0 ? '' : length === 1 ? '1 file' : speak`${length} files`;
  },
};
