import { useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { sheetIssues } from '../../core/check/sheet-issues';
import { noAnswers } from '../../core/form/answers';
import { compileForm } from '../../core/form/compile-form';
import { fieldsOfForm, isTyped, type FormDesign } from '../../core/form/design';
import { firstForm } from '../../core/form/first-form';
import { Sheet } from '../../core/form/sheet';
import { newUuid } from '../../core/kernel/ids';
import { rowsToWrite } from '../../core/storage/rows-to-write';
import type { Table } from '../../core/table/model';
import { issueSentence } from '../../core/wording/issue-sentence';
import { worldAt } from '../../core/workspace';
import { call } from '../kit/call';
import type { Missing } from './add-missing';
import { Control } from './Control';
import { Asterisk } from './Asterisk';
import { headingOf } from './headings';
import { speak } from '../../core/wording/speak';

interface Props extends Missing {
  readonly onClose: () => void;
}

/** A record that is missing from a list is added on the spot, by the columns of its table; its checks and rights are asked by the server, as anywhere. */
export default function AddRecord({ table, words, onAdded, onClose }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  const sheet = useMemo(() => sheetFor(table, words), [table, words]);
  const [, drawn] = useReducer((n: number) => n + 1, 0);
  const [tried, setTried] = useState(false);
  const [busy, setBusy] = useState(false);
  const [told, setTold] = useState<ReadonlyMap<string, string>>(new Map());
  const key = useRef({ id: newUuid(), key: newUuid() });
  useEffect(() => dialog.current?.showModal(), []);
  const own = new Map(sheetIssues(sheet).map((one) => [String(one.path[0]), issueSentence(one)]));
  const save = async () => {
    setTried(true);
    if (own.size > 0 || busy) return;
    setBusy(true);
    const { id } = key.current;
    const values = Object.fromEntries([...rowsToWrite(sheet).values].filter(([, value]) => value !== null));
    try {
      const done = await call('POST', '/api/edits', {
        key: key.current.key,
        edits: [{ t: 'add', table: table.id, id, parent: null, values }],
      });
      key.current = { id, key: newUuid() };
      if (done.ok) return onAdded(id);
      const issues = done.error.issues ?? [];
      setTold(
        issues.length === 0
          ? new Map([['', done.error.title]])
          : new Map(issues.map(({ path, sentence }) => [String(path[1] ?? ''), sentence])),
      );
    } catch {
      setTold(new Map([['', 'The server cannot be reached. Try again in a moment.']]));
    } finally {
      setBusy(false);
    }
  };
  const changed = () => {
    setTold(new Map());
    drawn();
  };
  const { design } = sheet.form;
  const troubleAt = (id: string): string | undefined => told.get(id) ?? (tried ? own.get(id) : undefined);
  const elsewhere = [...told].filter(([id]) => !sheet.form.fields.has(id)).map(([, sentence]) => sentence);
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- Keys typed in a dialog are not those of the page behind it.
    <dialog
      ref={dialog}
      aria-labelledby="add-record"
      className="m-auto w-[min(32rem,calc(100vw-1.5rem))] rounded-lg border border-slate-300 bg-white p-0 text-ink shadow-lg backdrop:bg-slate-950/40"
      onClose={onClose}
      onKeyDown={(event) => event.stopPropagation()}
      // Before the control in hand hears of it: a button would take Enter for itself.
      onKeyDownCapture={(event) => {
        if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
        event.preventDefault();
        event.stopPropagation();
        void save();
      }}
    >
      <h2 id="add-record" className="border-b border-slate-200 px-5 py-3 text-lg">
        {design.title}
      </h2>
      <div className="grid max-h-[60vh] gap-3 overflow-auto px-5 py-3">
        {fieldsOfForm(design)
          .filter(isTyped)
          .map((question) => {
            const trouble = troubleAt(question.id);
            return (
              <div key={question.id}>
                <p className="mb-1 font-semibold">
                  {headingOf(question)}
                  {question.required && <Asterisk />}
                </p>
                <Control
                  question={question}
                  place={[question.id]}
                  sheet={sheet}
                  formId=""
                  submission={null}
                  tables={sheet.form.tables}
                  name={headingOf(question)}
                  invalid={trouble !== undefined}
                  onChange={changed}
                  onTouch={drawn}
                />
                {trouble !== undefined && <p className="trouble">{trouble}</p>}
              </div>
            );
          })}
      </div>
      <div className="flex flex-wrap items-center justify-end gap-3 border-t border-slate-200 px-5 py-3">
        <span role="alert" className="flex-1 text-[14px] font-semibold text-rust">
          {elsewhere.join('. ')}
        </span>
        <button
          type="button"
          className="button"
          onClick={() => dialog.current?.close()}
        >{speak`Cancel`}</button>
        <button
          type="button"
          className="button button-go"
          disabled={busy}
          onClick={() => void save()}
        >{speak`Add and pick it`}</button>
      </div>
    </dialog>
  );
}

/** References and files are left for the record's own page; what has a default fills itself. */
function sheetFor(table: Table, words: string): Sheet {
  const tables = new Map([[table.id, table]]);
  const whole = firstForm(table, tables, { section: 'own', rows: (i) => `rows${i}` });
  const locked = new Set(table.columns.filter((one) => one.locked).map(({ id }) => id));
  const fills = new Set(table.columns.filter((one) => one.default !== '').map(({ id }) => id));
  const design: FormDesign = {
    ...whole,
    sections: whole.sections.map((section) => ({
      ...section,
      questions: section.questions
        .filter(({ id, kind }) => !locked.has(id) && kind !== 'lookup' && kind !== 'files' && kind !== 'rows')
        .map((one) => (fills.has(one.id) ? { ...one, required: false } : one)),
    })),
  };
  const form = compileForm(design, tables);
  // Without a check of the table's that reads what is not asked here, which the server asks itself.
  const made = form.ok ? form : compileForm(design, new Map([[table.id, { ...table, checks: [] }]]));
  if (!made.ok) throw new Error(`${table.key} gives no form`);
  const named = table.columns.find(({ id, kind }) => table.title.includes(id) && kind === 'text');
  const values = named === undefined || words === '' ? {} : { [named.id]: words };
  const now = new Date().toISOString().slice(0, 19);
  return new Sheet(
    made.value,
    { ...noAnswers, values },
    new Map(),
    worldAt({ workdays: [], holidays: [] }, now),
  );
}
