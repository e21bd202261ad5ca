import { FilePlus2 } from './icons';
import { useState } from 'react';
import { call } from './call';
import { speak } from '../../core/wording/speak';

/** Makes a form that fills a table, bound to it already, and goes to its workbench. */
export function FirstForm({ table, plain = false }: { table: string; plain?: boolean }) {
  const [state, setState] = useState<{ busy: boolean; trouble: string }>({ busy: false, trouble: '' });
  const make = async (): Promise<void> => {
    setState({ busy: true, trouble: '' });
    const id = crypto.randomUUID();
    const done = await call('POST', `/api/tables/${table}/form`, { id }).catch(() => null);
    if (done?.ok === true) location.assign(`/forms/${id}`);
    else
      setState({
        busy: false,
        trouble: done === null ? speak`The server could not be reached` : done.error.title,
      });
  };
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <button
        type="button"
        className={plain ? 'button-plain' : 'button'}
        disabled={state.busy}
        onClick={() => void make()}
      >
        <FilePlus2 size={15} aria-hidden />
        {speak`Make a form of it`}
      </button>
      {state.trouble !== '' && (
        <span role="alert" className="trouble m-0!">
          {state.trouble}
        </span>
      )}
    </span>
  );
}
