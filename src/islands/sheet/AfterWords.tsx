import type { SheetData } from '../../contract/sheet-from-server';

/** What the owner of the form says to whoever has sent it; line breaks stay. */
export function AfterWords({ data: { design, record } }: { data: SheetData }) {
  const message = design.after?.message ?? '';
  return message === '' || record !== null ? null : (
    <span className="mt-1 block font-normal break-words whitespace-pre-wrap">{message}</span>
  );
}
