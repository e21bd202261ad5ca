/**
 * The draft of a new sheet that this window has just kept on the server. A page that is being loaded anew may
 * have asked for the empty form before its address became that of the draft; then it goes on to the draft, or
 * what was typed would seem to be lost.
 */
const nameOf = (form: string): string => `slate:just-kept:${form}`;

export function justKept(form: string, id: string | null): void {
  try {
    if (id === null) sessionStorage.removeItem(nameOf(form));
    else sessionStorage.setItem(nameOf(form), id);
  } catch {
    // Where nothing may be stored, the draft is found on Home.
  }
}

/** The draft to go on with, where this page was loaded anew; whoever comes here otherwise begins another. */
export function keptBefore(form: string): string | null {
  try {
    const [navigation] = performance.getEntriesByType('navigation');
    const isAgain = navigation instanceof PerformanceNavigationTiming && navigation.type === 'reload';
    const id = isAgain ? sessionStorage.getItem(nameOf(form)) : null;
    justKept(form, null);
    return id;
  } catch {
    return null;
  }
}
