import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Popover } from 'react-aria-components';

/** What a record shows beside its title. */
export interface CardFacts {
  readonly heads: readonly string[];
  readonly shown: readonly string[];
}

interface Props {
  /** Null while nothing is picked. */
  readonly title: string | null;
  readonly cardKey: readonly unknown[];
  readonly load: () => Promise<CardFacts | null>;
  readonly children: ReactNode;
}

/** Long enough that a pointer on its way past shows nothing. */
const SHOW_AFTER_MS = 450;

/** Shows what is known of a picked record while the pointer rests on it. */
export function PickedCard({ title, cardKey, load, children }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const [open, setOpen] = useState(false);
  const { data } = useQuery({ queryKey: ['card', ...cardKey], queryFn: load, enabled: open });
  const facts = (data?.heads ?? []).map((head, i) => [head, data?.shown[i] ?? ''] as const);
  const hide = () => {
    clearTimeout(timer.current);
    setOpen(false);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <div
      ref={place}
      role="presentation"
      className="min-w-0 flex-1"
      onPointerEnter={({ pointerType }) => {
        // A finger does not rest anywhere.
        if (pointerType === 'mouse' && title !== null)
          timer.current = setTimeout(() => setOpen(true), SHOW_AFTER_MS);
      }}
      onPointerLeave={hide}
      onPointerDown={hide}
      onKeyDown={hide}
    >
      {children}
      {open && title !== null && facts.length > 0 && (
        <Popover
          triggerRef={place}
          isOpen
          isNonModal
          onOpenChange={hide}
          placement="top start"
          className="popover px-3 py-2"
        >
          <p className="font-semibold">{title}</p>
          <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
            {facts.map(([head, value]) => (
              <div key={head} className="contents">
                <dt className="text-slate-600">{head}</dt>
                <dd className="break-words">{value || '—'}</dd>
              </div>
            ))}
          </dl>
        </Popover>
      )}
    </div>
  );
}
