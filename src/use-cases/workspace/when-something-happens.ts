import { listen } from '../../data/live';

interface What {
  /** Whether something of this topic is meant; left out, anything is. */
  readonly about?: (topic: string) => boolean;
  /** Milliseconds that are waited for more of the same. */
  readonly gathered?: number;
}

/** Begins `work` soon after something has happened, once for all that happens together, and never twice at a time. */
export function whenSomethingHappens(
  work: () => Promise<void>,
  { about = () => true, gathered = 300 }: What = {},
): () => void {
  let due: NodeJS.Timeout | null = null;
  let busy = false;
  let again = false;
  const begin = async (): Promise<void> => {
    due = null;
    if (busy) return void (again = true);
    busy = true;
    await work();
    busy = false;
    if (again) later();
    again = false;
  };
  const later = (): void => void (due ??= setTimeout(() => void begin(), gathered));
  return listen((topic) => {
    // Of what came while the connection was lost nothing is known.
    if (topic === 'again' || about(topic)) later();
  });
}
