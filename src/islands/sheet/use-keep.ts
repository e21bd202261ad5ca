import { useCallback, useEffect, useRef, useState } from 'react';
import type { SheetData } from '../../contract/answers-from-server';
import type { Answers } from '../../core/form/answers';
import { call } from '../kit/call';
import { clearCopy, writeCopy } from './device-copy';

/** After the last key press; long enough not to save every letter, short enough that little is ever unsaved. */
const KEEP_AFTER_MS = 700;
const TRY_AGAIN_MS = 4_000;

export type Keeping =
  | { readonly t: 'fresh' }
  | { readonly t: 'typing' }
  | { readonly t: 'kept'; readonly at: string }
  | { readonly t: 'on-device' }
  | { readonly t: 'refused'; readonly words: string };

/**
 * The draft keeps itself. Every change is written on the device at once and to the server soon after, one request at
 * a time; without a connection it stays on the device and is tried again. `flush` waits until the server has it all.
 */
export function useKeep(data: SheetData, id: string, read: () => Answers) {
  const version = useRef(data.submission?.version ?? 0);
  const [keeping, setKeeping] = useState<Keeping>(
    data.submission === null ? { t: 'fresh' } : { t: 'kept', at: data.submission.updatedAt },
  );
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const running = useRef<Promise<boolean> | null>(null);
  const dirty = useRef(false);

  const save = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    if (running.current !== null && !(await running.current)) return false;
    if (!dirty.current && version.current > 0) return true;
    dirty.current = false;
    const work = call<{ version: number }>('PUT', `/api/submissions/${id}`, {
      form: data.formId,
      version: version.current,
      answers: read(),
    }).then(
      (result) => {
        if (!result.ok) {
          setKeeping({ t: 'refused', words: result.error.title });
          return false;
        }
        version.current = result.value.version;
        if (!dirty.current) {
          setKeeping({ t: 'kept', at: new Date().toISOString() });
          clearCopy(data.formKey, id);
        }
        return true;
      },
      () => {
        dirty.current = true;
        setKeeping({ t: 'on-device' });
        timer.current = setTimeout(() => void save(), TRY_AGAIN_MS);
        return false;
      },
    );
    running.current = work;
    const done = await work;
    running.current = null;
    return done;
  }, [data.formId, data.formKey, id, read]);

  const changed = useCallback(() => {
    dirty.current = true;
    setKeeping((now) => (now.t === 'refused' ? now : { t: 'typing' }));
    writeCopy(data.formKey, id, { id, version: version.current, answers: read() });
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void save(), KEEP_AFTER_MS);
  }, [data.formKey, id, read, save]);

  useEffect(() => {
    const leave = () => {
      if (dirty.current) void save();
    };
    window.addEventListener('pagehide', leave);
    return () => window.removeEventListener('pagehide', leave);
  }, [save]);

  return { keeping, changed, flush: save, version };
}
