import type { Due } from '../../core/approval/due';
import { showDate } from '../../core/formats/days';
import { speak } from '../../core/wording/speak';

/** When something is to be decided, or since when it is late. */
export const DueWords = ({ due }: { due: Due | null }) =>
  due !== null && (
    <span className={`block font-semibold ${due.late ? 'text-rust' : 'text-slate-700'}`}>
      {due.late ? speak`was due` : speak`due`} {showDate(due.day)}
      {due.time !== undefined && `, ${due.time}`}
    </span>
  );
