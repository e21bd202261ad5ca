import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { MadeToken, ReachData, TokenInput, TokensData } from '../../contract/tokens';
import { newUuid } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { wideWords } from '../../core/wording/token-sentence';
import { call, fetched } from '../kit/call';
import { DateInput } from '../kit/DateInput';
import { Copy, TriangleAlert } from '../kit/icons';
import { personChoices } from '../kit/person-choices';
import { Said } from '../kit/Said';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { useSaying } from '../kit/use-saying';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const USUAL_DAYS = 180;
const DAY_MS = 86_400_000;

type TableAction = 'see' | 'add' | 'change' | 'remove';
/** What it may, by ids; whoever writes in a table sees it as well. */
type FormAction = 'fill' | 'see-all';
type Picked = Readonly<Record<TableAction | FormAction, readonly string[]>>;
const nothing: Picked = { see: [], add: [], change: [], remove: [], fill: [], 'see-all': [] };

const SENTENCES = spoken(
  (): readonly {
    readonly action: TableAction | FormAction;
    readonly words: string;
    readonly label: string;
  }[] => [
    { action: 'see', words: speak`It sees`, label: speak`Tables it sees` },
    { action: 'add', words: speak`It adds to`, label: speak`Tables it adds to` },
    { action: 'change', words: speak`It changes`, label: speak`Tables it changes` },
    { action: 'remove', words: speak`It removes from`, label: speak`Tables it removes from` },
    { action: 'fill', words: speak`It fills`, label: speak`Forms it fills` },
    { action: 'see-all', words: speak`It follows every submission of`, label: speak`Forms it follows` },
  ],
);

const isOfForms = (action: TableAction | FormAction): action is FormAction =>
  action === 'fill' || action === 'see-all';

/** Makes a token; its secret is shown once. */
export function NewToken({ data, made }: { data: TokensData; made: () => void }) {
  const [label, setLabel] = useState('');
  const [person, setPerson] = useState(data.me);
  const [until, setUntil] = useState(
    new Date(Date.parse(data.today) + USUAL_DAYS * DAY_MS).toISOString().slice(0, 10),
  );
  const [picked, setPicked] = useState<Picked>(nothing);
  const [secret, setSecret] = useState<string | null>(null);
  const { saying, say } = useSaying();
  const { data: reach } = useQuery({
    queryKey: ['reach', person],
    queryFn: () => fetched<ReachData>(`/api/tokens/reach?person=${person}`),
  });
  const may = new Set(reach?.may ?? []);
  const choicesFor = (action: TableAction | FormAction) =>
    (isOfForms(action) ? data.forms : data.tables)
      .filter(({ id }) => may.has(`${action} ${id}`))
      .map(({ id, label: name }) => ({ value: id, label: name }));
  const grants = grantsOf(picked, may);
  const wide = wideWords(grants, (Date.parse(until) - Date.parse(data.today)) / DAY_MS);
  const make = () =>
    say(
      async () => {
        const input: TokenInput = { label, person, until, grants };
        const result = await call<MadeToken>('PUT', `/api/tokens/${newUuid()}`, input);
        if (result.ok) setSecret(result.value.secret);
        return result;
      },
      '',
      made,
    );
  if (secret !== null) return <Secret secret={secret} label={label} />;
  return (
    <form
      className="margin-part first"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <h2 className="margin-title">{speak`A new token`}</h2>
      <label className="mb-2 block text-[14px] font-semibold">
        {speak`Which program is it for?`}
        <input
          value={label}
          maxLength={limits.label}
          className={`box mt-0.5 font-normal ${saying.at === 'label' ? 'wrong' : ''}`}
          onChange={(event) => setLabel(event.target.value)}
        />
      </label>
      <Sentence>{speakIn`It acts for ${(
        <Select
          label={speak`Whom it acts for`}
          value={person}
          choices={personChoices(data.people)}
          onChange={(next) => {
            setPerson(next);
            setPicked(nothing);
          }}
        />
      )}`}</Sentence>
      {SENTENCES().map(({ action, words, label: name }) => (
        <Sentence key={action}>
          {words}{' '}
          <Several
            label={name}
            values={[...picked[action]]}
            none={isOfForms(action) ? speak`no form` : speak`no table`}
            choices={choicesFor(action)}
            onChange={(values) => setPicked({ ...picked, [action]: values })}
          />
        </Sentence>
      ))}
      <div className="mb-2 text-[14px]">
        <span className="font-semibold" aria-hidden>{speak`Last day it works`}</span>
        <DateInput
          label={speak`Last day it works`}
          value={until}
          onChange={(text) => setUntil(text ?? '')}
          invalid={saying.at === 'until'}
        />
      </div>
      {wide.length > 0 && (
        <p className="mb-2 flex items-start gap-1.5 rounded bg-ochre-soft p-2 text-[14px] text-ochre">
          <TriangleAlert size={16} aria-hidden className="mt-1 shrink-0" />
          <span>{speakIn`${(<strong>{speak`This is a wide token.`}</strong>)} ${wide.join(' ')} Whoever has it may do that, so name no more than the program needs.`}</span>
        </p>
      )}
      <button
        type="submit"
        className="button button-go"
        disabled={saying.busy || label.trim() === '' || grants.length === 0}
      >{speak`Make the token`}</button>
      <Said saying={saying} />
    </form>
  );
}

function grantsOf(picked: Picked, may: ReadonlySet<string>): TokenInput['grants'] {
  const { fill, 'see-all': followed, see, ...writes } = picked;
  const seen = new Set([...see, ...Object.values(writes).flat()]);
  return [
    ...[...seen].map((tableId) => ({ tableId, formId: null, action: 'see' as const })),
    ...(['add', 'change', 'remove'] as const).flatMap((action) =>
      picked[action].map((tableId) => ({ tableId, formId: null, action })),
    ),
    ...fill.map((formId) => ({ tableId: null, formId, action: 'fill' as const })),
    ...followed.map((formId) => ({ tableId: null, formId, action: 'see-all' as const })),
  ].filter(({ tableId, formId, action }) => may.has(`${action} ${tableId ?? formId ?? ''}`));
}

function Secret({ secret, label }: { secret: string; label: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <section className="margin-part first" aria-labelledby="secret">
      <h2 id="secret" className="margin-title">
        {label}
      </h2>
      <p className="mb-2 text-[14px]">{speak`This is its secret. It is shown only now; keep it where the program keeps its passwords.`}</p>
      <input
        readOnly
        aria-label={speak`Secret of the token`}
        value={secret}
        className="box font-mono text-[13px]"
        onFocus={(event) => event.target.select()}
      />
      <button
        type="button"
        className="button mt-2"
        onClick={() => void navigator.clipboard.writeText(secret).then(() => setCopied(true))}
      >
        <Copy size={15} aria-hidden />
        {copied ? speak`Copied` : speak`Copy the secret`}
      </button>
      <p className="mt-3 text-[14px]">{speakIn`${(<a href="/api-guide">{speak`The guide`}</a>)} shows what it can ask, with examples to try.`}</p>
    </section>
  );
}
