import { FillLine } from './FillLine';
import { FillMargin } from './FillMargin';
import { SheetSections } from './SheetSections';
import type { Filling } from './use-fill';

/** What the server would not take of a sheet. */
export function ServerWords({ fill }: { fill: Filling }) {
  return (
    <div role="alert">
      {fill.serverWords !== '' && (
        <p className="mb-3 rounded-md bg-rust-soft px-4 py-2 font-semibold text-rust">{fill.serverWords}</p>
      )}
    </div>
  );
}

/** The lines of a sheet that is being filled, with its margin. */
export function FillFrame({ fill }: { fill: Filling }) {
  return (
    <div className="sheet-frame max-sm:mb-16">
      {/* What is typed while it is on its way would not be sent with it. */}
      <div inert={fill.sending}>
        <SheetSections
          hides
          data={fill.data}
          sheet={fill.sheet}
          line={(line) => <FillLine key={line.id} line={line} fill={fill} />}
        />
      </div>
      <FillMargin fill={fill} />
    </div>
  );
}
