import { Download } from '../kit/icons';
import { speak } from '../../core/wording/speak';

/** The rows that were refused, as files to fix and bring again. */
export function RefusedFiles({ id, sheets }: { id: string; sheets: readonly string[] }) {
  if (sheets.length === 0) return null;
  return (
    <p className="mt-1.5 flex flex-wrap gap-x-3 gap-y-1">
      {sheets.map((sheet) => (
        <a
          key={sheet}
          download
          href={`/api/imports/${id}/refused?sheet=${encodeURIComponent(sheet)}`}
          className="inline-flex items-center gap-1.5 text-[14px] font-semibold text-lichen-deep"
        >
          <Download size={14} aria-hidden />
          {speak`Rows of ${sheet} to fix`}
        </a>
      ))}
    </p>
  );
}
