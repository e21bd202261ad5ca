import { Printer } from '../kit/icons';
import { speak } from '../../core/wording/speak';

/** To paper, or to a PDF, by the browser. */
export function PrintButton() {
  return (
    <button type="button" className="button" onClick={() => window.print()}>
      <Printer size={15} aria-hidden />
      {speak`Print`}
    </button>
  );
}
