import { Link2 } from '../kit/icons';
import { speak } from '../../core/wording/speak';

export interface LinkingNow {
  readonly busy: boolean;
  readonly trouble: string;
  readonly link: (tables: readonly string[]) => Promise<boolean>;
  /** Takes up what a linked table has become at its source. */
  readonly follow: (table: string) => Promise<boolean>;
}

/** What a picked thing says above the button that links it. */
export function LinkButton({
  linking,
  words,
  tables,
  children,
}: {
  linking: LinkingNow;
  words: string;
  tables: readonly string[];
  children?: React.ReactNode;
}) {
  return (
    <>
      {children}
      <button
        type="button"
        className="button button-go mt-2 w-full"
        disabled={linking.busy}
        onClick={() => void linking.link(tables)}
      >
        <Link2 size={16} aria-hidden />
        {linking.busy ? speak`Linking …` : words}
      </button>
    </>
  );
}
