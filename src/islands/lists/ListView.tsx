import { counted, digits } from '../../core/wording/numbers';
import { FileText, History, Table2, Trash2, Undo2 } from '../kit/icons';
import type { ListData } from '../../contract/choice-lists';
import { issueSentence } from '../../core/wording/issue-sentence';
import { listSentence } from '../../core/wording/list-sentence';
import { planList } from '../../core/table/choice-list';
import { Age } from '../kit/Age';
import { ChoiceEditor } from '../kit/ChoiceEditor';
import { Root } from '../kit/Root';
import { useList } from './use-list';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export default function ListView({ initial }: { initial: ListData }) {
  return (
    <Root>
      <OneList initial={initial} />
    </Root>
  );
}

const records = (n: number): string => `${digits(n)} ${n === 1 ? speak`record` : speak`records`}`;

function OneList({ initial }: { initial: ListData }) {
  const state = useList(initial);
  const { data, base, list, edit, changes, isBehind } = state;
  const heldBy = (code: string): string =>
    data.held[code] === undefined ? speak`held by no record` : speak`in ${records(data.held[code])}`;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-3">
        <div className="min-w-0 flex-1">
          <p className="quiet">
            <a href="/tables" className="crumb">{speak`Tables`}</a> ›{' '}
            <a href="/lists" className="crumb">{speak`Choice lists`}</a>
          </p>
          <div className="flex flex-wrap items-center gap-3">
            <h1 className="text-[23px]">
              <input
                aria-label={speak`Name of the list`}
                className="field-sizing-content max-w-full min-w-24 rounded border border-transparent bg-transparent hover:border-slate-300"
                maxLength={200}
                value={list.label}
                onChange={(event) => edit((one) => ({ ...one, label: event.target.value }))}
              />
            </h1>
            {changes.length > 0 && (
              <span className="tag bg-ochre-soft text-ochre">{speak`${counted(changes.length, 'change')} not carried out`}</span>
            )}
          </div>
        </div>
        <button
          type="button"
          className="button"
          disabled={!state.canUndo || changes.length === 0}
          onClick={state.undo}
        >
          <Undo2 size={15} aria-hidden />
          {speak`Undo`}
        </button>
      </div>
      {isBehind && (
        <div
          role="alert"
          className="mb-3 flex flex-wrap items-center justify-between gap-3 rounded-md bg-marker-soft px-4 py-2"
        >
          <p>{speak`${data.done[0]?.by ?? speak`Somebody`} changed this list since you began. Yours would be drawn on theirs: what only they changed stays theirs.`}</p>
          <button
            type="button"
            className="button"
            onClick={state.rebase}
          >{speak`Bring my changes onto theirs`}</button>
        </div>
      )}
      <div className="sheet-frame">
        <section aria-label={speak`The choices`}>
          <ChoiceEditor
            choices={list.choices}
            there={new Set(base.choices.map(({ code }) => code))}
            removable={
              new Set(
                base.choices.filter(({ code }) => data.held[code] === undefined).map(({ code }) => code),
              )
            }
            onChange={(choices) => edit((one) => ({ ...one, choices }))}
            beside={(code) => (
              <span className="quiet">
                {base.choices.some((one) => one.code === code) ? (
                  heldBy(code)
                ) : (
                  <span className="tag bg-marker py-0 text-ink">{speak`new`}</span>
                )}
              </span>
            )}
          />
          <label className="block py-3 pr-5 pl-[46px] text-[14px]">
            {speak`What it is for`}
            <textarea
              rows={2}
              className="box mt-1"
              maxLength={2_000}
              value={list.description}
              onChange={(event) => edit((one) => ({ ...one, description: event.target.value }))}
            />
          </label>
        </section>
        <aside id="margin" className="margin-pane" aria-label={speak`What it does and where it is used`}>
          <Changes
            state={state}
            heldWords={(code) =>
              data.held[code] === undefined
                ? ''
                : `${records(data.held[code])} ${data.held[code] === 1 ? speak`holds` : speak`hold`}`
            }
          />
          <Uses uses={data.uses} remove={state.remove} busy={state.busy} />
          {data.done.length > 0 && (
            <section className="margin-part" aria-labelledby="list-done">
              <h2 id="list-done" className="margin-title">
                <History size={15} aria-hidden />
                {speak`What was changed`}
              </h2>
              <ul className="grid gap-2 text-[14px]">
                {data.done.map(({ by, at, list: now, before }) => (
                  <li key={at}>
                    {planList(before, now)
                      .map((one) => listSentence(one))
                      .join('; ')}
                    <span className="quiet block">
                      {by}, <Age iso={at} />
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </aside>
      </div>
    </>
  );
}

function Changes({
  state,
  heldWords,
}: {
  state: ReturnType<typeof useList>;
  heldWords: (code: string) => string;
}) {
  const { changes, issues, trouble, busy, isBehind, run, data } = state;
  const { columns, forms } = data.uses;
  const live = forms.filter((one) => one.live).length;
  return (
    <section className="margin-part first" aria-label={speak`What changes`}>
      <h2 className="margin-title">
        {changes.length === 0 ? speak`Nothing to carry out` : counted(changes.length, 'change')}
      </h2>
      {changes.length === 0 && (
        <p className="quiet">{speak`Reword, add, retire or move a choice; what that does is said here before it happens.`}</p>
      )}
      {changes.length > 0 && (
        <>
          <ol className="mb-2 grid list-decimal gap-1 pl-5 text-[14px]">
            {changes.map((one, i) => (
              <li key={i}>{listSentence(one, heldWords)}</li>
            ))}
          </ol>
          <p className="quiet mb-2">
            {columns.length + live === 0
              ? speak`Nothing that people work with uses the list yet.`
              : speak`All at once in ${[columns.length > 0 ? `${columns.length} ${columns.length === 1 ? speak`column` : speak`columns`}` : '', live > 0 ? speak`${live} released ${live === 1 ? speak`form` : speak`forms`}` : ''].filter((one) => one !== '').join(speak` and `)}, or not at all.`}
          </p>
          {issues.map((one, i) => (
            <p key={i} className="trouble mb-2">
              {issueSentence(one)}
            </p>
          ))}
        </>
      )}
      <div role="alert">
        {trouble !== null && (
          <div className="mb-2 rounded-md bg-rust-soft px-3 py-2 text-[14px] text-rust">
            <p className="font-semibold">{trouble.title}</p>
            {(trouble.issues ?? []).map(({ sentence }, i) => (
              <p key={i}>{sentence}</p>
            ))}
          </div>
        )}
      </div>
      {changes.length > 0 && (
        <button
          type="button"
          className="button button-go"
          disabled={busy || isBehind || issues.length > 0}
          onClick={() => void run()}
        >{speak`Change the list`}</button>
      )}
    </section>
  );
}

function Uses({
  uses: { columns, forms },
  remove,
  busy,
}: {
  uses: ListData['uses'];
  remove: () => Promise<void>;
  busy: boolean;
}) {
  const hidden = columns.filter(({ table }) => table === null).length;
  return (
    <section className="margin-part" aria-labelledby="list-uses">
      <h2 id="list-uses" className="margin-title">{speak`Where it is used`}</h2>
      <ul className="grid gap-1 text-[14px]">
        {columns
          .filter(({ key }) => key !== null)
          .map(({ table, key, column, retired }) => (
            <li key={`${key} ${column}`} className="flex items-start gap-1.5">
              <Table2 size={14} aria-hidden className="mt-1 shrink-0 text-slate-600" />
              <span>{speakIn`${column} in ${(<a href={`/tables/${key}/design`}>{table}</a>)}${retired && speak`, a retired column`}`}</span>
            </li>
          ))}
        {hidden > 0 && (
          <li>{speak`${hidden === 1 ? 'A column' : speak`${hidden} columns`} of tables you do not see`}</li>
        )}
        {forms.map(({ id, title, live }) => (
          <li key={id} className="flex items-start gap-1.5">
            <FileText size={14} aria-hidden className="mt-1 shrink-0 text-slate-600" />
            <span>{speakIn`the form ${(<a href={`/forms/${id}`}>{title}</a>)}${!live && speak`, in its draft`}`}</span>
          </li>
        ))}
      </ul>
      {columns.length + forms.length === 0 && (
        <>
          <p className="quiet mb-2">{speak`By nothing yet. Pick it at a column or question whose answer is one choice.`}</p>
          <button
            type="button"
            className="button-plain text-rust"
            disabled={busy}
            onClick={() => void remove()}
          >
            <Trash2 size={14} aria-hidden />
            {speak`Remove the list`}
          </button>
        </>
      )}
    </section>
  );
}
