import { Printer } from '../kit/icons';

/** To paper, or to a PDF, by the browser. */
export function PrintButton() {
  return (
    <button type="button" className="button" onClick={() => window.print()}>
      <Printer size={15} aria-hidden />
      Print
    </button>
  );
}
