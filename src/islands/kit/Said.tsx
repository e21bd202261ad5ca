import type { Saying } from './use-saying';

/** What came of what was pressed, under it. */
export function Said({ saying: { words, wrong } }: { saying: Pick<Saying, 'words' | 'wrong'> }) {
  return (
    <div role={wrong ? 'alert' : 'status'}>
      {words !== '' && (
        <p className={wrong ? 'trouble mt-2' : 'mt-2 text-[14px] font-semibold text-lichen-deep'}>{words}</p>
      )}
    </div>
  );
}
