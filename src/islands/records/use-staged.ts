import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { OneRecordData, Problem, TableAtWork } from '../../contract/answers-from-server';
import type { SavedEdits } from '../../contract/record-edits';
import { brokenAlone, brokenIssue, type GivenReason } from '../../core/record/own-checks';
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
import { sayWithUndo } from '../kit/say';
import { editedRecord } from './record-cells';
import { askedOf, isSameAsked, takenBack, type Asked, type Refused, type StagedTrouble } from './reasons';
import { StagedStore, type Flying } from './staged-store';
import { useStagedHistory } from './use-staged-history';
import { speak } from '../../core/wording/speak';

/** A record as it is now, where somebody changed it while edits of it were staged. */
export interface Meanwhile {
  readonly record: EditedRecord;
  readonly by: string;
  readonly at: string;
}

const MOVED = new Set(['value-changed', 'record-changed', 'record-removed']);

/** Edits that are staged: typed, undone, kept on the device, saved together, and what the server says of them. */
export function useStaged({ table, related, deviceKey }: TableAtWork, saved: () => void) {
  const tables = useMemo(
    () => new Map([table, ...related.map((one) => one.table)].map((one) => [one.id, one])),
    [table, related],
  );
  const known = useRef(tables);
  known.current = tables;
  const [words, setWords] = useState('');
  const quiet = useCallback(() => setWords(''), []);
  const { history, setHistory, edit, undo, redo } = useStagedHistory(quiet);
  const [refused, setRefused] = useState<readonly Refused[]>([]);
  const [reasons, setReasons] = useState<readonly GivenReason[]>([]);
  const [meanwhile, setMeanwhile] = useState<ReadonlyMap<string, Meanwhile>>(new Map());
  const [saving, setSaving] = useState(false);
  const flying = useRef<Flying | null>(null);
  const staged = history.now;
  const store = useRef<StagedStore | null>(null);

  // What is on the device exists only in the browser, so the server's first picture is drawn without it.
  useEffect(() => {
    const opened = new StagedStore(deviceKey, table.id);
    store.current = opened;
    void opened.takenUp().then((found) => {
      const left = found?.staged.filter((one) => known.current.has(one.table)) ?? [];
      if (found === null || left.length === 0) return;
      flying.current = found.flying;
      setReasons(found.reasons ?? []);
      setHistory((all) => (all.now.length > 0 ? all : { past: [], now: left, future: [] }));
      setWords(speak`These edits were here before and were not saved.`);
    });
    return () => opened.close();
  }, [deviceKey, table.id, setHistory]);
  useEffect(() => store.current?.write(staged, flying.current, reasons), [staged, reasons]);

  const own = useMemo(() => staged.flatMap((one) => troublesOf(tables, one)), [staged, tables]);
  const told = useMemo(
    () => refused.filter(({ id, typed }) => typedOf(staged, id) === typed),
    [refused, staged],
  );
  const asked = useMemo(() => askedOf(tables, staged, told, reasons), [tables, staged, told, reasons]);
  const stops = [
    ...own,
    ...told.filter(
      (one) =>
        one.code !== 'reason-needed' && !own.some(({ id, column }) => id === one.id && column === one.column),
    ),
  ];
  const troubles: readonly StagedTrouble[] = [
    ...stops,
    ...asked.flatMap(({ record, column, message, reason }): StagedTrouble[] =>
      reason.trim() === ''
        ? [{ id: record, column, sentence: speak`Give a reason: ${message}`, code: 'reason-needed' }]
        : [],
    ),
  ];
  const giveReason = ({ record, check }: Asked, reason: string): void =>
    setReasons((all) => [
      ...all.filter((one) => !isSameAsked(one, { record, check })),
      { record, check, reason },
    ]);

  const post = (body: { key: string; edits: readonly EditInput[]; reasons?: readonly GivenReason[] }) =>
    call<SavedEdits>('POST', '/api/edits', body);

  const takeBack = async (batch: readonly EditInput[]): Promise<void> => {
    let result = await post({ key: newUuid(), edits: batch }).catch(() => null);
    const asks = result?.ok === false ? (result.error.issues ?? []) : [];
    // What a record was before is reason enough.
    if (asks.length > 0 && asks.every(({ code }) => code === 'reason-needed'))
      result = await post({ key: newUuid(), edits: batch, reasons: asks.map(takenBack) }).catch(() => null);
    if (result === null)
      return setWords(speak`The server cannot be reached; nothing was undone. Try again in a moment.`);
    if (!result.ok)
      return setWords(
        speak`That cannot be undone any more: ${result.error.issues?.[0]?.sentence ?? result.error.title}`,
      );
    sayWithUndo(speak`${counted(batch.length, 'record')} as before`, () => void takeBack(result.value.undo));
    saved();
  };

  /** Sends all that is staged; what was sent and not answered goes first, for it may have arrived. True when nothing is left. */
  const save = async (): Promise<boolean> => {
    setWords('');
    if (saving || (staged.length === 0 && flying.current === null)) return false;
    if ((own.length > 0 || asked.some(({ reason }) => reason.trim() === '')) && flying.current === null)
      return false;
    setSaving(true);
    try {
      const given = reasons.filter(({ reason }) => reason.trim() !== '');
      const one = (flying.current ??= { key: newUuid(), sent: staged, reasons: given });
      store.current?.write(staged, one, reasons);
      const edits = editsOf(one.sent).map(asInput);
      if (edits.length === 0) return (land(one.sent, {}), true);
      const result = await post({ key: one.key, edits, reasons: one.reasons ?? [] });
      if (!result.ok) return await refuse(result.error.title, result.error.issues ?? []);
      land(one.sent, result.value.versions);
      const { records } = countStaged(one.sent);
      sayWithUndo(speak`${counted(records, 'record')} saved`, () => void takeBack(result.value.undo));
      saved();
      return true;
    } catch {
      setWords(
        speak`The server cannot be reached. Your edits are kept on this device; save again in a moment.`,
      );
      return false;
    } finally {
      setSaving(false);
    }
  };

  const land = (sent: Staged, versions: Readonly<Record<string, number>>): void => {
    flying.current = null;
    setRefused([]);
    setReasons([]);
    setMeanwhile(new Map());
    setHistory(({ now }) => ({ past: [], now: afterSaved(now, sent, versions), future: [] }));
  };

  const refuse = async (title: string, issues: NonNullable<Problem['issues']>): Promise<boolean> => {
    flying.current = null;
    store.current?.write(staged, null, reasons);
    const ids = new Set(staged.map(({ id }) => id));
    const placed = issues.filter(
      // What is asked about a record that is not staged itself, because rows of it are, is asked here too.
      ({ path, code }) => ids.has(String(path[0])) || (code === 'reason-needed' && path.length > 1),
    );
    setRefused(
      placed.map(({ code, path, sentence, facts }) => ({
        id: String(path[0]),
        column: typeof path[1] === 'string' ? path[1] : null,
        sentence,
        code,
        check: String(facts['check'] ?? ''),
        message: String(facts['message'] ?? ''),
        typed: typedOf(staged, String(path[0])),
      })),
    );
    const elsewhere = issues.filter((one) => !placed.includes(one));
    setWords(
      placed.length > 0 && elsewhere.length === 0
        ? ''
        : [title, ...elsewhere.map(({ sentence }) => sentence)].join('. '),
    );
    const moved = [
      ...new Set(placed.filter(({ code }) => MOVED.has(code)).map(({ path }) => String(path[0]))),
    ];
    setMeanwhile(await readMeanwhile(tables, staged, moved));
    return false;
  };

  return {
    tables,
    related,
    staged,
    edit,
    undo,
    redo,
    canUndo: history.past.length > 0,
    troubles,
    asked,
    giveReason,
    meanwhile,
    save,
    saving,
    words,
    say: setWords,
    /** What was said of a record is to be asked again. */
    forget: (id: string) => setRefused((all) => all.filter((one) => one.id !== id)),
  };
}

const issuesOf = (tables: ReadonlyMap<string, Table>, one: StagedRecord) => {
  const table = tables.get(one.table);
  if (table === undefined) return [];
  const broken = brokenAlone(table, one).flatMap((check) => brokenIssue(check, one.id, 'asked before') ?? []);
  return [...stagedIssues(table, one), ...broken];
};

const troublesOf = (tables: ReadonlyMap<string, Table>, one: StagedRecord): StagedTrouble[] =>
  issuesOf(tables, one).map((issue) => ({
    id: one.id,
    column: typeof issue.path[1] === 'string' ? issue.path[1] : null,
    sentence: issueSentence(issue),
    code: issue.code,
  }));

export type StagedEdits = ReturnType<typeof useStaged>;

/** Records that somebody changed meanwhile are looked at one by one; more than these at once is a matter for reading anew. */
const MOST_LOOKED_AT = 20;

const typedOf = (staged: Staged, id: string): string =>
  JSON.stringify(staged.find((one) => one.id === id) ?? null);

async function readMeanwhile(
  tables: ReadonlyMap<string, Table>,
  staged: Staged,
  moved: readonly string[],
): Promise<ReadonlyMap<string, Meanwhile>> {
  const found = await Promise.all(
    moved.slice(0, MOST_LOOKED_AT).map((id) => {
      const of = tables.get(stagedOf(staged, id)?.table ?? '');
      return of === undefined ? null : readNow(of.key, id);
    }),
  );
  return new Map(found.flatMap((one) => (one === null ? [] : [[one.record.id, one]])));
}

async function readNow(key: string, id: string): Promise<Meanwhile | null> {
  const result = await call<OneRecordData>('GET', `/api/tables/${key}/records/${id}`).catch(() => null);
  if (result?.ok !== true) return null;
  const { table, record, history } = result.value;
  const last = history.at(-1);
  return { record: editedRecord(table, record), by: last?.by ?? '', at: last?.at ?? record.updatedAt };
}
