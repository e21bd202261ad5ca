import { useEffect, useState } from 'react';

/** A value once it has stayed the same for so many milliseconds: what is still typed is not asked about. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}
