import {
  createContext,
  startTransition,
  Suspense,
  useContext,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type ReactNode,
} from 'react';

/** Whether controls that need much script are there. Where nobody says otherwise they are. */
const Awake = createContext(true);

const TRY_AGAIN_MS = 3_000;

/**
 * Draws a page first with the likenesses of such controls, which weigh nothing: on the server, and where it
 * becomes alive. `load` fetches them; then they are put in their places, a piece at a time, so that typing
 * goes on meanwhile.
 */
export function WakesLater({ load, children }: { load: () => Promise<void>; children: ReactNode }) {
  const [isAwake, setAwake] = useState(false);
  const held = useRef('');
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const wake = (): void =>
      void load().then(
        () => startTransition(() => setAwake(true)),
        // The line is away: what is there goes on, and the rest is fetched once it is back.
        () => (timer = setTimeout(wake, TRY_AGAIN_MS)),
      );
    wake();
    return () => clearTimeout(timer);
  }, [load]);
  // Whoever has gone into a likeness already is in the control then.
  useLayoutEffect(() => {
    const active = document.activeElement;
    if (!isAwake) return;
    if (active === document.body && held.current !== '') document.getElementById(held.current)?.focus();
  }, [isAwake]);
  return (
    <Awake value={isAwake}>
      <div
        role="presentation"
        className="contents"
        onFocusCapture={({ target }) => {
          held.current = target.hasAttribute('data-likeness') ? target.id : '';
        }}
      >
        {children}
      </div>
    </Awake>
  );
}

/** A control that needs much script, and what stands in its place until that is there. */
export function Later({ likeness, children }: { likeness: ReactNode; children: () => ReactNode }) {
  const isAwake = useContext(Awake);
  return isAwake ? <Suspense fallback={likeness}>{children()}</Suspense> : likeness;
}
