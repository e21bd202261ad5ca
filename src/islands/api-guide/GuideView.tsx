import { useMemo, useState } from 'react';
import { API } from '../../core/api/open-api';
import { operationsOf, type Operation } from '../../core/api/operations';
import type { Asking } from '../../core/api/snippets';
import { grouped } from '../../core/kernel/grouped';
import type { JsonSchema } from '../../core/kernel/json-schema';
import { saveFile } from '../kit/save-file';
import { Details } from './Details';
import { TokenPart } from './TokenPart';
import { TryIt } from './TryIt';

interface Props {
  /** As whoever looks would reach it with a token of everything they may. */
  readonly document: JsonSchema;
  readonly origin: string;
}

/** What the API answers, and a way to try it. A token that is pasted stays in this page. */
export default function GuideView({ document: own, origin }: Props) {
  const [token, setToken] = useState('');
  const [reached, setReached] = useState<JsonSchema | null>(null);
  const document = reached ?? own;
  const operations = useMemo(() => operationsOf(document), [document]);
  const [inHand, setInHand] = useState<string | null>(null);
  const [asked, setAsked] = useState<Readonly<Record<string, Omit<Asking, 'operation'>>>>({});
  const picked = operations.find(({ id }) => id === inHand);
  const asking = picked === undefined ? null : askingOf(picked, asked);
  const server = `${origin}${API}`;
  return (
    <>
      <div className="flex flex-wrap items-center justify-between gap-3 pt-4 pb-4">
        <h1 className="text-2xl">What the API answers</h1>
        <span className="flex flex-wrap items-center gap-3">
          <span className="quiet font-mono text-[13px]">{server}</span>
          <button
            type="button"
            className="button"
            onClick={() => saveFile('openapi.json', JSON.stringify(document, null, 2), 'application/json')}
          >
            Save as OpenAPI
          </button>
        </span>
      </div>
      <div className="sheet-frame">
        <div>
          {operations.length === 0 && (
            <p className="py-4 pr-5 pl-[46px]">Nothing that you may see is reached by it yet.</p>
          )}
          {[...grouped(operations, ({ tag }) => tag)].map(([tag, some]) => (
            <section key={tag} aria-label={tag}>
              <h2 className="pt-4 pb-1 pl-[46px] text-lg max-sm:pl-4">{tag}</h2>
              <ul>
                {some.map((operation) => (
                  <li key={operation.id} className="border-b border-slate-200">
                    <OperationLine
                      operation={operation}
                      isInHand={operation.id === inHand}
                      pick={() => setInHand(operation.id === inHand ? null : operation.id)}
                    />
                    {operation.id === inHand && asking !== null && (
                      <Details server={server} asking={asking} />
                    )}
                  </li>
                ))}
              </ul>
            </section>
          ))}
        </div>
        <aside id="margin" className="margin-pane" aria-label="Trying it out">
          <TokenPart token={token} setToken={setToken} isNarrowed={reached !== null} onReached={setReached} />
          {asking !== null && (
            <TryIt
              key={asking.operation.id}
              asking={asking}
              token={token}
              change={(part) =>
                setAsked({
                  ...asked,
                  [asking.operation.id]: { values: asking.values, body: asking.body, ...part },
                })
              }
            />
          )}
        </aside>
      </div>
    </>
  );
}

const askingOf = (
  operation: Operation,
  asked: Readonly<Record<string, Omit<Asking, 'operation'>>>,
): Asking => ({
  operation,
  ...(asked[operation.id] ?? {
    values: {},
    body: operation.body === null ? '' : JSON.stringify(operation.body.example, null, 2),
  }),
});

interface LineProps {
  readonly operation: Operation;
  readonly isInHand: boolean;
  readonly pick: () => void;
}

const OperationLine = ({ operation: { method, path, summary }, isInHand, pick }: LineProps) => (
  <button
    type="button"
    aria-expanded={isInHand}
    className={`grid w-full grid-cols-[4.5rem_minmax(0,1fr)] items-baseline gap-2 py-2 pr-5 pl-[46px] text-left hover:bg-slate-50 max-sm:pl-4 ${isInHand ? 'bg-lichen-soft' : ''}`}
    onClick={pick}
  >
    <span className="font-mono text-[13px] font-semibold text-slate-600">{method}</span>
    <span className="min-w-0">
      <span className="font-mono text-[13px] break-words">{path}</span>
      <span className="quiet block">{summary}</span>
    </span>
  </button>
);
