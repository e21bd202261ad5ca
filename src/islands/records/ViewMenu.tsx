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
import { ViewNaming } from './ViewNaming';
import { speak } from '../../core/wording/speak';

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
        {view === undefined ? speak`views` : changed ? speak`changed from` : speak`kept as`}
      </span>
      <DialogTrigger>
        <Button className="pick">
          {view?.label ?? speak`All records`}
          <ChevronDown size={14} aria-hidden className="shrink-0" />
        </Button>
        <Popover className="popover max-h-[70vh] w-80 max-w-[92vw] p-3!">
          <Dialog aria-label={speak`Views`} className="outline-none">
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
  const [naming, setNaming] = useState<'new' | 'this' | null>(null);
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
      setTrouble(
        done === null ? speak`The server cannot be reached. Try again in a moment.` : done.error.title,
      );
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
  const nameAnew = async (
    { id, version, design }: OfferedView,
    named: Omit<View, 'design'>,
    asks: readonly string[],
  ) => {
    if (await told('PUT', id, { version, view: { ...named, design: { ...design, asks } } })) setNaming(null);
  };
  const remove = async ({ id }: OfferedView) => {
    if (!(await told('DELETE', id))) return;
    onQuery({ ...query, view: null });
    close();
  };
  return (
    <div className="grid gap-2">
      <ul aria-label={speak`Views`} className="grid gap-0.5">
        {[undefined, ...views].map((one) => (
          <li key={one?.id ?? ''}>
            <button
              type="button"
              aria-current={one?.id === view?.id}
              className={`flex w-full flex-wrap items-baseline gap-2 rounded px-1.5 py-1 text-left hover:bg-lichen-soft ${one?.id === view?.id ? 'font-semibold' : ''}`}
              onClick={() => open(one?.id ?? '')}
            >
              <span className="min-w-0 break-words">{one?.label ?? speak`All records`}</span>
              {one !== undefined && <span className="quiet font-normal">{whomWords(one, work)}</span>}
            </button>
          </li>
        ))}
      </ul>
      {view?.mayChange === true && (
        <p className="flex flex-wrap gap-2 border-t border-slate-200 pt-2">
          {changed && (
            <button
              type="button"
              className="button"
              onClick={() => void keepChanges(view)}
            >{speak`Keep the changes`}</button>
          )}
          <button
            type="button"
            className="button"
            onClick={() => setNaming('this')}
          >{speak`Its name and whom it is for`}</button>
          <button
            type="button"
            className="button button-stop"
            onClick={() => void remove(view)}
          >{speak`Remove this view`}</button>
        </p>
      )}
      {trouble !== '' && (
        <p role="alert" className="trouble mt-0!">
          {trouble}
        </p>
      )}
      <div className="border-t border-slate-200 pt-2">
        {naming === 'new' && (
          <ViewNaming work={work} picked={picked} onKeep={(named, asks) => void keepNew(named, asks)} />
        )}
        {naming === 'this' && view !== undefined && (
          <ViewNaming
            key={view.id}
            work={work}
            picked={picked}
            view={view}
            onKeep={(named, asks) => void nameAnew(view, named, asks)}
          />
        )}
        {naming === null && (
          <button
            type="button"
            className="button"
            onClick={() => setNaming('new')}
          >{speak`Keep what is shown as a view`}</button>
        )}
      </div>
    </div>
  );
}

function whomWords(
  { isFirst, for: { everybody, groups, people }, owner, mayChange }: OfferedView,
  work: TableAtWork,
): string {
  const names = [
    ...work.groups.filter(({ id }) => groups.includes(id)).map(({ label }) => label),
    ...(people.length === 0
      ? []
      : [people.length === 1 ? speak`one colleague` : speak`${people.length} colleagues`]),
  ];
  const whom = everybody
    ? speak`for everybody`
    : names.length > 0
      ? speak`for ${names.join(', ')}`
      : mayChange
        ? speak`only yours`
        : '';
  return [isFirst ? speak`shown first` : '', whom, mayChange ? '' : speak`by ${owner}`]
    .filter((one) => one !== '')
    .join(', ');
}
