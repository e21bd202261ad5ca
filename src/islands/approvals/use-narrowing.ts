import { useEffect, useState } from 'react';
import { notNarrowed, onlies, type Narrowing } from '../../core/approval/narrowed';

/** What the list is narrowed to, kept in the address, so that it is there again after something was opened. */
export function useNarrowing(): readonly [Narrowing, (part: Partial<Narrowing>) => void] {
  const [by, setBy] = useState(notNarrowed);
  useEffect(() => setBy(readFrom(new URLSearchParams(location.search))), []);
  const narrow = (part: Partial<Narrowing>): void => {
    const next = { ...by, ...part };
    setBy(next);
    history.replaceState(null, '', `${location.pathname}${addressOf(next)}`);
  };
  return [by, narrow];
}

function readFrom(said: URLSearchParams): Narrowing {
  return {
    words: said.get('find') ?? '',
    title: said.get('form'),
    only: onlies.find((one) => one === said.get('only')) ?? null,
  };
}

function addressOf({ words, title, only }: Narrowing): string {
  const said = new URLSearchParams({
    ...(words.trim() !== '' && { find: words }),
    ...(title !== null && { form: title }),
    ...(only !== null && { only }),
  });
  return said.size === 0 ? '' : `?${said}`;
}
