import { useMemo, type ReactNode } from 'react';
import type { SheetData } from '../../contract/sheet-from-server';
import type { Line } from '../../core/form/numbered-lines';
import type { Sheet } from '../../core/form/sheet';
import { askedLines, shownLines, withoutHidden } from './sheet-model';

interface Props {
  readonly data: SheetData;
  readonly sheet: Sheet;
  readonly line: (line: Line) => ReactNode;
  /** Left out, everything is shown; to whoever fills it, not what fills itself. */
  readonly hides?: boolean;
}

/** The sections of a sheet in which anything is asked now, filled or looked at. */
export function SheetSections({ data, sheet, line, hides = false }: Props) {
  const lines = useMemo(() => (hides ? withoutHidden(shownLines(data)) : shownLines(data)), [data, hides]);
  return data.design.sections
    .map((section) => ({ section, asked: askedLines(lines.get(section.id), sheet) }))
    .filter(({ asked }) => asked.length > 0)
    .map(({ section, asked }) => (
      <section key={section.id} aria-label={section.title || data.design.title}>
        {section.title !== '' && (
          <h2 className="pt-3.5 pr-5 pl-[46px] text-lg max-sm:pr-3 max-sm:pl-[34px]">{section.title}</h2>
        )}
        <div className={section.columns === 2 ? 'two-columns' : ''}>
          {asked.map((one) => (
            <div key={one.id} className={one.half === true ? '' : 'whole'}>
              {line(one)}
            </div>
          ))}
        </div>
      </section>
    ));
}
