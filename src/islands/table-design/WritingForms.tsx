import { FileInput } from '../kit/icons';
import { useState } from 'react';
import { call } from '../kit/call';
import type { TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';

/** A table decides how it may be filled: the forms that write to it, and those that wait for its designer's word. */
export function WritingForms({ design }: { design: TableDesign }) {
  const { forms, mayDesign, table } = design.data;
  const [trouble, setTrouble] = useState('');
  if (table === null) return null;
  const settle = async (form: string, allowed: boolean) => {
    const done = await call('POST', `/api/tables/${table.key}/forms`, { form, allowed }).catch(() => null);
    setTrouble(done === null ? speak`The server cannot be reached` : done.ok ? '' : done.error.title);
    await design.refetch();
  };
  return (
    <section className="margin-part" aria-labelledby="writing">
      <h2 id="writing" className="margin-title">
        <FileInput size={16} aria-hidden />
        {speak`Forms that write here`}
      </h2>
      {forms.length === 0 && (
        <p className="quiet">{speak`None yet. The first one is allowed when you release it.`}</p>
      )}
      <ul className="grid gap-1.5 text-[14px]">
        {forms.map(({ id, title, owner, state }) => (
          <li key={id} className={state === 'asked' ? 'rounded-md bg-marker-soft px-2 py-1.5' : ''}>
            <strong>{title}</strong> <span className="quiet">{speak`of ${owner}`}</span>
            {state === 'allowed' && mayDesign && <TakeOff title={title} off={() => settle(id, false)} />}
            {state === 'asked' && (
              <>
                <p>{speak`asks to write here, beside the forms that do already.`}</p>
                {mayDesign && (
                  <span className="mt-1 flex gap-2">
                    <button
                      type="button"
                      className="button"
                      onClick={() => void settle(id, true)}
                    >{speak`Allow it`}</button>
                    <button
                      type="button"
                      className="button"
                      onClick={() => void settle(id, false)}
                    >{speak`Do not allow it`}</button>
                  </span>
                )}
              </>
            )}
          </li>
        ))}
      </ul>
      {trouble !== '' && (
        <p role="alert" className="trouble">
          {trouble}
        </p>
      )}
    </section>
  );
}

/** Said twice, for what colleagues have under way in that form is refused from then on. */
function TakeOff({ title, off }: { title: string; off: () => Promise<void> }) {
  const [sure, setSure] = useState(false);
  return (
    <>
      {sure && (
        <p className="text-ochre">{speak`Nothing sent in ${title} will be kept here any more, not even what waits for approval.`}</p>
      )}
      <button
        type="button"
        className="button-plain py-0!"
        onClick={() => (sure ? void off() : setSure(true))}
        onBlur={() => setSure(false)}
      >
        {sure ? speak`Take it off all the same` : speak`Take it off`}
      </button>
    </>
  );
}
