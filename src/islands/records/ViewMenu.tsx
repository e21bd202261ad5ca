import { useState } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import type { TableAtWork } from '../../contract/answers-from-server';
import type { Picked } from '../../core/check/pick-text';
import { newUuid } from '../../core/kernel/ids';
import {
  designOf,
  isChanged,
  openedQuery,
  type OfferedView,
  type View,
  type ViewQuery,
} from '../../core/record/view';
import { call } from '../kit/call';
import { ChevronDown } from '../kit/icons';

interface Props {
  readonly work: TableAtWork;
  readonly views: readonly OfferedView[];
  readonly onViews: (views: readonly OfferedView[]) => void;
  readonly query: ViewQuery;
  readonly onQuery: (query: ViewQuery) => void;
  /** The conditions there are, of which some can be asked for first. */
  readonly picked: Picked | null;
}

/** What is shown is kept under a name, and found again: for oneself, or for others as well. */
export function ViewMenu(props: Props) {
  const { views, query } = props;
  const view = views.find(({ id }) => id === query.view);
  const changed = view !== undefined && isChanged(query, view);
  return (
    <span className="ml-auto flex items-center gap-2 text-[14px]">
      <span className="text-slate-600">
        {view === undefined ? 'views' : changed ? 'changed from' : 'kept as'}
      </span>
      <DialogTrigger>
        <Button className="pick">
          {view?.label ?? 'All records'}
          <ChevronDown size={14} aria-hidden className="shrink-0" />
        </Button>
        <Popover className="popover max-h-[70vh] w-80 max-w-[92vw] p-3!">
          <Dialog aria-label="Views" className="outline-none">
            {({ close }) => <Views {...props} view={view} changed={changed} close={close} />}
          </Dialog>
        </Popover>
      </DialogTrigger>
    </span>
  );
}

type Kept = Props & {
  readonly view: OfferedView | undefined;
  readonly changed: boolean;
  readonly close: () => void;
};

function Views({ work, views, onViews, query, onQuery, picked, view, changed, close }: Kept) {
  const [isNaming, setNaming] = useState(false);
  const [trouble, setTrouble] = useState('');
  const path = `/api/tables/${work.table.key}/views`;
  const known = new Set(['number', ...work.places.map(({ text }) => text)]);
  const open = (id: string) => {
    const asked = id === '' ? { sort: '-number' } : { view: id };
    const next = openedQuery(asked, { views, look: work.look, known });
    // A view that asks for values first is opened at its address, so that nothing is loaded before.
    if (next.waits) location.assign(`/tables/${work.table.key}?view=${id}`);
    else onQuery(next.query);
    close();
  };
  const told = async (
    method: 'PUT' | 'DELETE',
    id: string,
    body?: { version: number | null; view: View },
  ): Promise<boolean> => {
    const done = await call<{ views: OfferedView[] }>(method, `${path}/${id}`, body).catch(() => null);
    if (done?.ok !== true) {
      setTrouble(done === null ? 'The server cannot be reached. Try again in a moment.' : done.error.title);
      return false;
    }
    onViews(done.value.views);
    return true;
  };
  const keepNew = async (named: Omit<View, 'design'>, asks: readonly string[]) => {
    const id = newUuid();
    if (!(await told('PUT', id, { version: null, view: { ...named, design: designOf(query, asks) } })))
      return;
    onQuery({ ...query, view: id });
    close();
  };
  const keepChanges = async ({ id, version, label, for: whom, isFirst, design }: OfferedView) => {
    const next = { label, for: whom, isFirst, design: designOf(query, design.asks) };
    if (await told('PUT', id, { version, view: next })) close();
  };
  const remove = async ({ id }: OfferedView) => {
    if (!(await told('DELETE', id))) return;
    onQuery({ ...query, view: null });
    close();
  };
  return (
    <div className="grid gap-2">
      <ul aria-label="Views" className="grid gap-0.5">
        {[undefined, ...views].map((one) => (
          <li key={one?.id ?? ''}>
            <button
              type="button"
              aria-current={one?.id === view?.id}
              className={`flex w-full flex-wrap items-baseline gap-2 rounded px-1.5 py-1 text-left hover:bg-lichen-soft ${one?.id === view?.id ? 'font-semibold' : ''}`}
              onClick={() => open(one?.id ?? '')}
            >
              <span className="min-w-0 break-words">{one?.label ?? 'All records'}</span>
              {one !== undefined && <span className="quiet font-normal">{whomWords(one, work)}</span>}
            </button>
          </li>
        ))}
      </ul>
      {view?.mayChange === true && (
        <p className="flex flex-wrap gap-2 border-t border-slate-200 pt-2">
          {changed && (
            <button type="button" className="button" onClick={() => void keepChanges(view)}>
              Keep the changes
            </button>
          )}
          <button type="button" className="button button-stop" onClick={() => void remove(view)}>
            Remove this view
          </button>
        </p>
      )}
      {trouble !== '' && (
        <p role="alert" className="trouble mt-0!">
          {trouble}
        </p>
      )}
      <div className="border-t border-slate-200 pt-2">
        {isNaming ? (
          <NewView work={work} picked={picked} onKeep={(named, asks) => void keepNew(named, asks)} />
        ) : (
          <button type="button" className="button" onClick={() => setNaming(true)}>
            Keep what is shown as a view
          </button>
        )}
      </div>
    </div>
  );
}

function whomWords(
  { isFirst, for: { everybody, groups }, owner, mayChange }: OfferedView,
  work: TableAtWork,
): string {
  const names = work.groups.filter(({ id }) => groups.includes(id)).map(({ label }) => label);
  const whom = everybody
    ? 'for everybody'
    : names.length > 0
      ? `for ${names.join(', ')}`
      : mayChange
        ? 'only yours'
        : '';
  return [isFirst ? 'shown first' : '', whom, mayChange ? '' : `by ${owner}`]
    .filter((one) => one !== '')
    .join(', ');
}

interface NewProps {
  readonly work: TableAtWork;
  readonly picked: Picked | null;
  readonly onKeep: (view: Omit<View, 'design'>, asks: readonly string[]) => void;
}

function NewView({ work, picked, onKeep }: NewProps) {
  const [label, setLabel] = useState('');
  const [everybody, setEverybody] = useState(false);
  const [groups, setGroups] = useState<readonly string[]>([]);
  const [asks, setAsks] = useState<readonly string[]>([]);
  const [isFirst, setFirst] = useState(false);
  const toggled = (list: readonly string[], one: string): readonly string[] =>
    list.includes(one) ? list.filter((other) => other !== one) : [...list, one];
  const conditions = [...new Set((picked?.picks ?? []).map(({ left }) => left))];
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (label.trim() === '') return;
        onKeep({ label: label.trim(), for: { everybody, groups, people: [] }, isFirst }, asks);
      }}
    >
      <label className="grid gap-0.5">
        Its name
        <input
          className="box"
          maxLength={200}
          value={label}
          // The question was just opened by pressing a button.
          // eslint-disable-next-line jsx-a11y/no-autofocus
          autoFocus
          onChange={(event) => setLabel(event.target.value)}
        />
      </label>
      <fieldset className="grid gap-0.5">
        <legend className="text-slate-600">For whom, besides you</legend>
        <Tick words="everybody who sees the table" isOn={everybody} onTick={() => setEverybody(!everybody)} />
        {work.groups.map(({ id, label: words }) => (
          <Tick
            key={id}
            words={words}
            isOn={groups.includes(id)}
            onTick={() => setGroups(toggled(groups, id))}
          />
        ))}
      </fieldset>
      {conditions.length > 0 && (
        <fieldset className="grid gap-0.5">
          <legend className="text-slate-600">Ask for these before anything is shown</legend>
          {conditions.map((text) => (
            <Tick
              key={text}
              words={work.filterables.find((one) => one.text === text)?.label ?? text}
              isOn={asks.includes(text)}
              onTick={() => setAsks(toggled(asks, text))}
            />
          ))}
        </fieldset>
      )}
      {work.mayDesign && (
        <Tick words="show it first to everybody" isOn={isFirst} onTick={() => setFirst(!isFirst)} />
      )}
      <p>
        <button type="submit" className="button button-dark" disabled={label.trim() === ''}>
          Keep this view
        </button>
      </p>
    </form>
  );
}

function Tick({
  words,
  isOn,
  onTick,
}: {
  readonly words: string;
  readonly isOn: boolean;
  readonly onTick: () => void;
}) {
  return (
    <label className="flex cursor-pointer items-center gap-2">
      <input type="checkbox" className="size-4 accent-lichen" checked={isOn} onChange={onTick} />
      <span className="min-w-0 break-words">{words}</span>
    </label>
  );
}
