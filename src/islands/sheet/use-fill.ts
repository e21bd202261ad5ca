import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import type { SheetData } from '../../contract/sheet-from-server';
import { sheetIssues } from '../../core/check/sheet-issues';
import { issueSentence } from '../../core/wording/issue-sentence';
import { grouped } from '../../core/kernel/grouped';
import type { Issue } from '../../core/kernel/issue';
import type { Sheet } from '../../core/form/sheet';
import { newUuid } from '../../core/kernel/ids';
import { questionAt } from '../../core/form/cells';
import type { Answers } from '../../core/form/answers';
import type { Result } from '../../core/kernel/result';
import type { FormDesign } from '../../core/form/design';
import { labelOf } from '../../core/form/line';
import type { Problem } from '../../contract/answers-from-server';
import { call } from '../kit/call';
import { sayWithUndo } from '../kit/say';
import type { AnswerPlace } from '../../core/storage/merged-answers';
import { goTo, lineAtPlace, modelOf, sheetWith, type Model } from './sheet-model';
import { useBlankRows, withFirstRows } from './blank-rows';
import { useKeep } from './use-keep';
import { useRecord } from './use-record';
import { usePatterns } from './use-patterns';
import { speak } from '../../core/wording/speak';

export interface ShownIssue {
  readonly key: string;
  readonly path: readonly (string | number)[];
  readonly line: string;
  readonly sentence: string;
  readonly code: string;
  /** Of what is there already: the record that may be changed instead. */
  readonly onto?: string;
}

/** The state of one sheet being filled: the engine, what is to fix, what has been looked at, keeping and sending. */
export function useFill(data: SheetData, outside: SendsFromOutside | null = null) {
  const model = useMemo(() => modelOf(data), [data]);
  const [sheet, setSheet] = useState<Sheet>(() => withFirstRows(sheetWith(data, model, data.answers), data));
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
  const [tried, setTried] = useState(false);
  const [serverWords, setServerWords] = useState('');
  const [refusals, setRefusals] = useState<readonly Refusal[]>([]);
  const [sending, setSending] = useState(false);
  const sendKey = useRef('');
  const filesComing = useRef(0);
  const coming = useCallback((by: 1 | -1) => void (filesComing.current += by), []);
  useSyncExternalStore(
    useCallback((told: () => void) => sheet.watch(told), [sheet]),
    () => sheet.version,
    () => sheet.version,
  );
  const record = useRecord(data, model);
  const { drafted, takenUp, stood } = record;
  const { id, keeping, onDevice, flush, forget, version, both, settle, ...keep } = useKeep(data, {
    show: useCallback(
      ({ draft, records }) => setSheet(sheetWith(data, model, takenUp(draft), records)),
      [data, model, takenUp],
    ),
    records: useCallback(() => sheet.picked(), [sheet]),
  });
  const keepEdits = keep.changed;
  const changed = useCallback(() => keepEdits(drafted(sheet.answers())), [keepEdits, drafted, sheet]);
  const settleClash = (place: AnswerPlace, which: 'mine' | 'theirs') => {
    const draft = record.settle(sheet, place, which);
    if (draft !== null) keepEdits(draft);
  };

  const patterns = usePatterns(model.form.usesPatterns);
  useEffect(() => {
    if (patterns) sheet.refresh();
  }, [patterns, sheet]);
  useBlankRows(sheet);

  // A draft gets its address once it exists, so that going back and forth finds it.
  useEffect(() => {
    if (keeping.t === 'kept' && data.submission === null && location.pathname.startsWith('/fill/'))
      history.replaceState(null, '', `/submissions/${id}`);
  }, [keeping, data.submission, id]);

  const lineAt = (path: ShownIssue['path']) => lineAtPlace(data.design, sheet, path);
  const shownIssue = (one: Issue): ShownIssue => ({
    key: `${one.path.join('/')}:${one.code}:${String(one.facts['check'] ?? '')}`,
    path: one.path,
    code: one.code,
    sentence: issueSentence(one),
    line: lineAt(one.path),
  });
  const own = sheetIssues(sheet)
    .filter((one) => !stood(sheet, one))
    .map(shownIssue);
  // What the server refused is marked at its answer until that is changed: it may know what nobody can see here, as that a number is taken.
  const told = refusals
    .filter(({ at, raw }) => JSON.stringify(rawAt(sheet, at.path)) === raw)
    .map(({ at }) => at);
  const issues = [...own, ...told.filter((one) => !own.some(({ path }) => path.join() === one.path.join()))];
  const touch = useCallback(
    (path: readonly string[]) => {
      sheet.pause();
      setTouched((now) => new Set([...now, path.join('/')]));
      tellDropped(data.design, sheet, changed);
    },
    [sheet, data.design, changed],
  );
  const byPlace = grouped(
    issues.filter(({ code }) => code !== 'reason-needed'),
    ({ path }) => path.join('/'),
  );
  const shownAt = (path: readonly string[]): readonly ShownIssue[] => {
    const at = path.join('/');
    return tried || touched.has(at) ? (byPlace.get(at) ?? NONE) : NONE;
  };
  const { formId, submission, rehearsal } = data;
  const isChange = data.record !== null;
  const hand = useMemo(
    (): Hand => ({
      sheet,
      model,
      formId,
      submission: rehearsal === true ? 'rehearsal' : (submission?.id ?? null),
      isChange,
      changed,
      touch,
      coming,
      device: { draft: id, key: data.deviceKey },
    }),
    [sheet, model, formId, submission, rehearsal, isChange, changed, touch, coming, id, data.deviceKey],
  );

  /** `next`: another sheet of the same form is begun right after. */
  const send = async (next = false) => {
    const goesOn = next || (data.record === null && data.design.after?.next === 'another');
    setTried(true);
    setServerWords('');
    if (record.clashes.length > 0)
      return setServerWords(
        speak`Somebody changed this record meanwhile: first say, above, which of the two stands.`,
      );
    if (filesComing.current > 0)
      return setServerWords(speak`A file is still on its way. Send again once it has arrived, or cancel it.`);
    const [first] = own;
    if (first !== undefined)
      return goTo(first.code === 'reason-needed' ? ['reason', first.key.split(':')[2] ?? ''] : first.path);
    if (keeping.t === 'fresh') {
      if (data.record !== null) return setServerWords(speak`Nothing has been changed yet.`);
      // Sent as it was opened: it is kept first, for there is nothing to send yet.
      changed();
    }
    setSending(true);
    try {
      if (!(await flush())) return;
      // The key stays until an answer came, so that trying again after a lost connection sends nothing twice.
      if (sendKey.current === '') sendKey.current = newUuid();
      const sending = { id, key: sendKey.current, version: version() };
      const result =
        outside === null
          ? await call<{ number: string }>('POST', `/api/submissions/${id}/send`, {
              key: sending.key,
              version: sending.version,
            })
          : await outside.send({ ...sending, answers: sheet.answers() });
      sendKey.current = '';
      if (result.ok && outside !== null) return forget();
      if (result.ok)
        return location.assign(goesOn ? `/fill/${data.formKey}?after=${id}` : `/submissions/${id}?sent`);
      const refused = result.error.issues ?? [];
      // What both changed is shown with both values, which the page fetches; all that was typed is kept.
      if (refused.some(({ code }) => MET.has(code))) return location.assign(`/submissions/${id}`);
      setRefusals(
        refused.map((one) => ({
          at: toldAt(one, lineAt(one.path)),
          raw: JSON.stringify(rawAt(sheet, one.path)),
        })),
      );
      setServerWords(
        [
          result.error.title,
          ...refused.map(({ path, sentence }) =>
            lineAt(path) === '' ? sentence : speak`Line ${lineAt(path)}: ${sentence}`,
          ),
        ].join('. '),
      );
      if (refused[0] !== undefined) goTo(refused[0].path);
    } catch {
      setServerWords(
        speak`The server cannot be reached. What you typed is kept on this device; send again in a moment.`,
      );
    } finally {
      setSending(false);
    }
  };
  return {
    goOnto: (record: string) => goOnto({ id, version, forget, say: setServerWords }, record),
    model,
    sheet,
    hand,
    record,
    settleClash,
    id,
    issues,
    shownAt,
    touch,
    changed,
    keeping,
    onDevice,
    flush,
    forget,
    version,
    both,
    settle,
    send,
    sending,
    serverWords,
    tried,
  };
}

/** How what somebody outside has filled is sent: as a whole, by their link. They stay on the page, and are told there. */
export interface SendsFromOutside {
  readonly send: (
    one: { readonly id: string; readonly key: string; readonly version: number } & {
      readonly answers: Answers;
    },
  ) => Promise<Result<unknown, Problem>>;
}

/** What the server refuses, at its place. */
const toldAt = (
  { path, sentence, code, facts }: NonNullable<Problem['issues']>[number],
  line: string,
): ShownIssue => ({
  key: `told ${path.join('/')} ${code} ${String(facts['check'] ?? '')}`,
  path,
  code,
  sentence,
  line,
  ...(code === 'record-found' && facts['id'] !== '' && { onto: String(facts['id']) }),
});

/** What was sent is there already: the draft goes on as a change of that. */
async function goOnto(
  draft: {
    readonly id: string;
    readonly version: () => number;
    readonly forget: () => void;
    readonly say: (words: string) => void;
  },
  record: string,
): Promise<void> {
  const { id, version, forget, say } = draft;
  const result = await call('POST', `/api/submissions/${id}/onto`, { version: version(), record }).catch(
    () => null,
  );
  if (result === null) return say(speak`The server cannot be reached. Try again in a moment.`);
  if (!result.ok) return say(result.error.title);
  forget();
  location.assign(`/submissions/${id}`);
}

/** A pick that fits no more has been taken away: never in silence. */
function tellDropped(design: FormDesign, sheet: Sheet, changed: () => void): void {
  const labels = [...new Set(sheet.takeDropped().map((place) => labelOf(design, questionAt(place))))];
  if (labels.length === 0) return;
  changed();
  sayWithUndo(speak`${labels.join(speak` and `)} emptied: what was picked does not fit this answer`, () => {
    sheet.undo();
    changed();
  });
}

const MET = new Set(['value-changed', 'row-changed']);

/** What the server would not take, and what stood there then. */
interface Refusal {
  readonly at: ShownIssue;
  readonly raw: string;
}

/** What is typed at the place of an issue; null where it concerns no one answer. */
function rawAt(sheet: Sheet, path: ShownIssue['path']): unknown {
  const [first = '', row = '', column = ''] = path.map(String);
  if (path.length === 1) return sheet.raw([first]);
  return path.length === 3 ? sheet.raw([first, row, column]) : null;
}

/** One list for all places where nothing is wrong, so that they are seen to be as they were. */
const NONE: readonly ShownIssue[] = [];

/** What an answer needs to be shown and typed in. It stays the same while somebody types, so that only what changed is drawn anew. */
export interface Hand {
  readonly sheet: Sheet;
  readonly model: Model;
  readonly formId: string;
  /** Null where none is kept yet; `rehearsal` where none ever is. */
  readonly submission: string | null;
  /** Whether it changes a record that is there. */
  readonly isChange: boolean;
  readonly changed: () => void;
  readonly touch: (path: readonly string[]) => void;
  /** Where files on their way are kept. */
  readonly device: { readonly draft: string; readonly key: string };
  /** That one more file is on its way, or one less: nothing is sent without them. */
  readonly coming: (by: 1 | -1) => void;
}

/** Whether the same is wrong at a place as before. */
export const sameIssues = (a: readonly ShownIssue[], b: readonly ShownIssue[]): boolean =>
  a === b ||
  (a.length === b.length &&
    a.every((one, i) => one.key === b[i]?.key && one.sentence === b[i]?.sentence && one.line === b[i]?.line));

/** What the parts of the sheet are handed. */
export type Filling = ReturnType<typeof useFill> & { readonly data: SheetData };
