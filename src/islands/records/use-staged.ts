import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { OneRecordData, TableAtWork } from '../../contract/answers-from-server';
import type { SavedEdits } from '../../contract/record-edits';
import { asInput, type EditInput } from '../../core/record/edit-input';
import { newUuid } from '../../core/kernel/ids';
import {
  afterSaved,
  countStaged,
  editsOf,
  stagedIssues,
  stagedOf,
  type EditedRecord,
  type Staged,
  type StagedRecord,
} from '../../core/record/staged';
import type { Table } from '../../core/table/model';
import { issueSentence } from '../../core/wording/issue-sentence';
import { counted } from '../../core/wording/numbers';
import { call } from '../kit/call';
import { sayWithUndo } from '../kit/Toasts';
import { editedRecord } from './record-cells';
import { StagedStore } from './staged-store';

/** What is wrong with a staged record, at one of its cells or as a whole. */
export interface StagedTrouble {
  readonly id: string;
  readonly column: string | null;
  readonly sentence: string;
  readonly code: string;
}

/** A record as it is now, where somebody changed it while edits of it were staged. */
export interface Meanwhile {
  readonly record: EditedRecord;
  readonly by: string;
  readonly at: string;
}

interface History {
  readonly past: readonly Staged[];
  readonly now: Staged;
  readonly future: readonly Staged[];
}
const MOST_UNDONE = 200;
const MOVED = new Set(['value-changed', 'record-changed', 'record-removed']);

/** Edits that are staged: typed, undone, kept on the device, saved together, and what the server says of them. */
export function useStaged({ table, related, deviceKey }: TableAtWork, saved: () => void) {
  const tables = useMemo(
    () => new Map([table, ...related.map((one) => one.table)].map((one) => [one.id, one])),
    [table, related],
  );
  const known = useRef(tables);
  known.current = tables;
  const [history, setHistory] = useState<History>({ past: [], now: [], future: [] });
  const [refused, setRefused] = useState<readonly (StagedTrouble & { readonly typed: string })[]>([]);
  const [meanwhile, setMeanwhile] = useState<ReadonlyMap<string, Meanwhile>>(new Map());
  const [saving, setSaving] = useState(false);
  const [words, setWords] = useState('');
  const flying = useRef<{ readonly key: string; readonly sent: Staged } | null>(null);
  const staged = history.now;
  const store = useRef<StagedStore | null>(null);

  const edit = useCallback((change: (staged: Staged) => Staged) => {
    setWords('');
    setHistory(({ past, now, future }) => {
      const next = change(now);
      return next === now || (next.length === 0 && now.length === 0)
        ? { past, now, future }
        : { past: [...past, now].slice(-MOST_UNDONE), now: next, future: [] };
    });
  }, []);
  const undo = useCallback(
    () =>
      setHistory((all) => {
        const last = all.past.at(-1);
        return last === undefined
          ? all
          : { past: all.past.slice(0, -1), now: last, future: [all.now, ...all.future] };
      }),
    [],
  );
  const redo = useCallback(
    () =>
      setHistory((all) => {
        const [next, ...future] = all.future;
        return next === undefined ? all : { past: [...all.past, all.now], now: next, future };
      }),
    [],
  );

  // What is on the device exists only in the browser, so the server's first picture is drawn without it.
  useEffect(() => {
    const opened = new StagedStore(deviceKey, table.id);
    store.current = opened;
    void opened.takenUp().then((found) => {
      const left = found?.staged.filter((one) => known.current.has(one.table)) ?? [];
      if (found === null || left.length === 0) return;
      flying.current = found.flying;
      setHistory((all) => (all.now.length > 0 ? all : { past: [], now: left, future: [] }));
      setWords('These edits were here before and were not saved.');
    });
    return () => opened.close();
  }, [deviceKey, table.id]);
  useEffect(() => store.current?.write(staged, flying.current), [staged]);

  const own = useMemo(
    () =>
      staged.flatMap((one) =>
        issuesOf(tables, one).map((issue): StagedTrouble => ({
          id: one.id,
          column: typeof issue.path[1] === 'string' ? issue.path[1] : null,
          sentence: issueSentence(issue),
          code: issue.code,
        })),
      ),
    [staged, tables],
  );
  const told = refused.filter(({ id, typed }) => typedOf(staged, id) === typed);
  const troubles: readonly StagedTrouble[] = [
    ...own,
    ...told.filter((one) => !own.some(({ id, column }) => id === one.id && column === one.column)),
  ];

  const post = (body: { key: string; edits: readonly EditInput[] }) =>
    call<SavedEdits>('POST', '/api/edits', body);

  const takeBack = async (batch: readonly EditInput[]): Promise<void> => {
    const key = newUuid();
    const result = await post({ key, edits: batch }).catch(() => null);
    if (result === null)
      return setWords('The server cannot be reached; nothing was undone. Try again in a moment.');
    if (!result.ok)
      return setWords(
        `That cannot be undone any more: ${result.error.issues?.[0]?.sentence ?? result.error.title}`,
      );
    sayWithUndo(`${counted(batch.length, 'record')} as before`, () => void takeBack(result.value.undo));
    saved();
  };

  /** Sends all that is staged; what was sent and not answered goes first, for it may have arrived. True when nothing is left. */
  const save = async (): Promise<boolean> => {
    setWords('');
    if (saving || (staged.length === 0 && flying.current === null)) return false;
    if (own.length > 0 && flying.current === null) return false;
    setSaving(true);
    try {
      const one = (flying.current ??= { key: newUuid(), sent: staged });
      store.current?.write(staged, one);
      const edits = editsOf(one.sent).map(asInput);
      if (edits.length === 0) return (land(one.sent, {}), true);
      const result = await post({ key: one.key, edits });
      if (!result.ok) return await refuse(result.error.title, result.error.issues ?? []);
      land(one.sent, result.value.versions);
      const { records } = countStaged(one.sent);
      sayWithUndo(`${counted(records, 'record')} saved`, () => void takeBack(result.value.undo));
      saved();
      return true;
    } catch {
      setWords('The server cannot be reached. Your edits are kept on this device; save again in a moment.');
      return false;
    } finally {
      setSaving(false);
    }
  };

  const land = (sent: Staged, versions: Readonly<Record<string, number>>): void => {
    flying.current = null;
    setRefused([]);
    setMeanwhile(new Map());
    setHistory(({ now }) => ({ past: [], now: afterSaved(now, sent, versions), future: [] }));
  };

  const refuse = async (
    title: string,
    issues: readonly { code: string; path: readonly (string | number)[]; sentence: string }[],
  ): Promise<boolean> => {
    flying.current = null;
    store.current?.write(staged, null);
    const ids = new Set(staged.map(({ id }) => id));
    const placed = issues.filter(({ path }) => ids.has(String(path[0])));
    setRefused(
      placed.map(({ code, path, sentence }) => ({
        id: String(path[0]),
        column: typeof path[1] === 'string' ? path[1] : null,
        sentence,
        code,
        typed: typedOf(staged, String(path[0])),
      })),
    );
    const elsewhere = issues.filter(({ path }) => !ids.has(String(path[0])));
    setWords(
      placed.length > 0 && elsewhere.length === 0
        ? ''
        : [title, ...elsewhere.map(({ sentence }) => sentence)].join('. '),
    );
    const moved = [
      ...new Set(placed.filter(({ code }) => MOVED.has(code)).map(({ path }) => String(path[0]))),
    ];
    const found = await Promise.all(
      moved.slice(0, MOST_LOOKED_AT).map((id) => {
        const of = tables.get(stagedOf(staged, id)?.table ?? '');
        return of === undefined ? null : readNow(of.key, id);
      }),
    );
    setMeanwhile(new Map(found.flatMap((one) => (one === null ? [] : [[one.record.id, one]]))));
    return false;
  };

  return {
    tables,
    staged,
    edit,
    undo,
    redo,
    canUndo: history.past.length > 0,
    troubles,
    meanwhile,
    save,
    saving,
    words,
    say: setWords,
  };
}

const issuesOf = (tables: ReadonlyMap<string, Table>, one: StagedRecord) => {
  const table = tables.get(one.table);
  return table === undefined ? [] : stagedIssues(table, one);
};

export type StagedEdits = ReturnType<typeof useStaged>;

/** Records that somebody changed meanwhile are looked at one by one; more than these at once is a matter for reading anew. */
const MOST_LOOKED_AT = 20;

const typedOf = (staged: Staged, id: string): string =>
  JSON.stringify(staged.find((one) => one.id === id) ?? null);

async function readNow(key: string, id: string): Promise<Meanwhile | null> {
  const result = await call<OneRecordData>('GET', `/api/tables/${key}/records/${id}`).catch(() => null);
  if (result?.ok !== true) return null;
  const { table, record, history } = result.value;
  const last = history.at(-1);
  return { record: editedRecord(table, record), by: last?.by ?? '', at: last?.at ?? record.updatedAt };
}
