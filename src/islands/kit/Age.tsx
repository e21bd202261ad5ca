import { useEffect, useState } from 'react';
import { age, when } from './when';

const AGAIN_MS = 20_000;

/** How long ago something was, kept true while it is looked at; the server, whose clock is another, says when it was. */
export function Age({ iso }: { iso: string }) {
  const [now, setNow] = useState<number | null>(null);
  useEffect(() => {
    const look = () => setNow(Date.now());
    look();
    const timer = setInterval(look, AGAIN_MS);
    return () => clearInterval(timer);
  }, [iso]);
  return (
    <time dateTime={iso} title={when(iso)}>
      {now === null ? when(iso) : age(iso, now)}
    </time>
  );
}
