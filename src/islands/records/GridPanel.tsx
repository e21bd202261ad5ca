import type { ReactNode, SyntheticEvent } from 'react';
import type { GridLine } from './grid-lines';

/** Pixels; what is more scrolls. */
export const PANEL_HEIGHT = 300;

interface Shown {
  /** The line, by its place. */
  readonly at: number;
  /** What is opened under it, and not the line itself. */
  readonly isPanel: boolean;
}

/** The lines with what is opened under them, as they are drawn. */
export const withPanels = (lines: readonly GridLine[], opened: ReadonlySet<string>): Shown[] =>
  lines.flatMap(({ id }, at) => [{ at, isPanel: false }, ...(opened.has(id) ? [{ at, isPanel: true }] : [])]);

/** What is opened under a record has keys and a clipboard of its own. */
export function Panel({
  top,
  width,
  children,
}: {
  readonly top: number;
  readonly width: number;
  readonly children: ReactNode;
}) {
  const own = { onKeyDown: stop, onCopy: stop, onPaste: stop, onFocus: stop };
  return (
    <div
      role="row"
      className="absolute top-0 left-0 w-full"
      style={{ transform: `translateY(${top}px)`, height: PANEL_HEIGHT }}
    >
      <div role="gridcell" className="sticky left-0 h-full" style={{ width }}>
        <div
          role="presentation"
          className="h-full overflow-y-auto border-b border-slate-300 bg-white shadow-[inset_4px_0_0_var(--color-lichen)]"
          {...own}
        >
          {children}
        </div>
      </div>
    </div>
  );
}

const stop = (event: SyntheticEvent): void => event.stopPropagation();
