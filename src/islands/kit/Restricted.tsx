import type { Column } from '../../core/table/model';
import { Lock } from './icons';
import { speak } from '../../core/wording/speak';

/** In place of what somebody does not see. */
export const Restricted = () => (
  <span className="inline-flex items-center gap-1 rounded bg-plum-soft px-1.5 text-[13px] font-semibold text-plum">
    <Lock size={12} aria-hidden />
    {speak`restricted`}
  </span>
);

/** What is said of a column beside its name, to those who see it: that it is about people, and not for everybody. */
export const ColumnMarks = ({ personal, restricted }: Pick<Column, 'personal' | 'restricted'>) => (
  <>
    {personal !== null && <span className="text-plum"> {speak`· personal`}</span>}
    {restricted && <span className="text-plum"> {speak`· restricted`}</span>}
  </>
);
