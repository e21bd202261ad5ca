import { listen } from '../../data/live';

/** Milliseconds that are waited for more of the same. */
const GATHERED = 300;

/** Begins `work` soon after anything has happened, once for all that happens together, and never twice at a time. */
export function whenSomethingHappens(work: () => Promise<void>): () => void {
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
  const later = (): void => void (due ??= setTimeout(() => void begin(), GATHERED));
  return listen(later);
}
