import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { AddressData, EventKind, EventsData, KeptAddress, SeenData } from '../../contract/events';
import { eventKinds } from '../../core/event/event';
import { newUuid } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { isOfRecords, kindWords } from '../../core/wording/event-sentence';
import { call, fetched } from '../kit/call';
import { CopyButton } from '../kit/CopyButton';
import { personChoices } from '../kit/person-choices';
import { Said } from '../kit/Said';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { useSaying } from '../kit/use-saying';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly data: EventsData;
  /** Null for a new one. */
  readonly address: AddressData | null;
  readonly done: () => void;
}

const kindChoices = (records: boolean) =>
  eventKinds
    .filter((kind) => isOfRecords(kind) === records)
    .map((kind) => ({ value: kind, label: kindWords()[kind] }));

/** Makes an address, whose secret is shown once; or changes what it is told. */
export function AddressForm({ data, address, done }: Props) {
  const [id] = useState(address?.id ?? newUuid);
  const [label, setLabel] = useState(address?.label ?? '');
  const [url, setUrl] = useState(address?.url ?? '');
  const [person, setPerson] = useState(address?.person ?? data.me);
  const [tables, setTables] = useState(address?.tables ?? []);
  const [forms, setForms] = useState(address?.forms ?? []);
  const [kinds, setKinds] = useState<readonly EventKind[]>(address?.kinds ?? eventKinds);
  const [secret, setSecret] = useState<string | null>(null);
  const { saying, say } = useSaying();
  const { data: seen } = useQuery({
    queryKey: ['events-seen', person],
    queryFn: () => fetched<SeenData>(`/api/events/seen?person=${person}`),
  });
  if (secret !== null) return <Secret label={label} secret={secret} />;
  const choices = (all: EventsData['tables'], may: readonly string[] = []) =>
    all.filter((one) => may.includes(one.id)).map((one) => ({ value: one.id, label: one.label }));
  const ofKind = (records: boolean) => kinds.filter((kind) => isOfRecords(kind) === records);
  const setOfKind = (records: boolean, values: readonly string[]) =>
    setKinds([
      ...ofKind(!records),
      ...eventKinds.filter((kind) => isOfRecords(kind) === records && values.includes(kind)),
    ]);
  const save = () =>
    say(
      async () => {
        const input = { version: address?.version ?? 0, label, url, person, tables, forms, kinds };
        const result = await call<KeptAddress>('PUT', `/api/events/${id}`, input);
        if (result.ok) setSecret(result.value.secret);
        return result;
      },
      speak`Saved.`,
      done,
    );
  const field = (
    name: 'label' | 'url',
    words: string,
    value: string,
    set: (text: string) => void,
    most: number,
  ) => (
    <label className="mb-2 block text-[14px] font-semibold">
      {words}
      <input
        value={value}
        maxLength={most}
        inputMode={name === 'url' ? 'url' : 'text'}
        placeholder={name === 'url' ? 'https://' : undefined}
        className={`box mt-0.5 font-normal ${name === 'url' ? 'font-mono text-[13px]' : ''} ${saying.at === name ? 'wrong' : ''}`}
        onChange={(event) => set(event.target.value)}
      />
    </label>
  );
  return (
    <form
      className={address === null ? 'margin-part first' : 'margin-part'}
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <h2 className="margin-title">{address === null ? speak`A new address` : speak`What it is told`}</h2>
      {field('label', speak`Which program listens there?`, label, setLabel, limits.label)}
      {field('url', speak`Address`, url, setUrl, 2_000)}
      <Sentence>{speakIn`It sees what ${(
        <Select
          label={speak`As whom it sees`}
          value={person}
          choices={personChoices(data.people)}
          onChange={(next) => {
            setPerson(next);
            setTables([]);
            setForms([]);
          }}
        />
      )} sees`}</Sentence>
      <Sentence>{speakIn`It is told of records ${(
        <Several
          label={speak`What happens to records`}
          values={ofKind(true)}
          none={speak`not at all`}
          choices={kindChoices(true)}
          onChange={(values) => setOfKind(true, values)}
        />
      )} in ${(
        <Several
          label={speak`Tables it follows`}
          values={[...tables]}
          none={speak`no table`}
          choices={choices(data.tables, seen?.tables)}
          onChange={setTables}
        />
      )}`}</Sentence>
      <Sentence>{speakIn`and of submissions ${(
        <Several
          label={speak`What happens to submissions`}
          values={ofKind(false)}
          none={speak`not at all`}
          choices={kindChoices(false)}
          onChange={(values) => setOfKind(false, values)}
        />
      )} of ${(
        <Several
          label={speak`Forms it follows`}
          values={[...forms]}
          none={speak`no form`}
          choices={choices(data.forms, seen?.forms)}
          onChange={setForms}
        />
      )}`}</Sentence>
      <button
        type="submit"
        className="button button-go mt-1"
        disabled={
          saying.busy || label.trim() === '' || url.trim() === '' || tables.length + forms.length === 0
        }
      >
        {address === null ? speak`Make the address` : speak`Save`}
      </button>
      <Said saying={saying} />
    </form>
  );
}

const Secret = ({ label, secret }: { readonly label: string; readonly secret: string }) => (
  <section className="margin-part first" aria-labelledby="secret">
    <h2 id="secret" className="margin-title">
      <span className="min-w-0 break-words">{label}</span>
    </h2>
    <p className="mb-2 text-[14px]">{speak`This is the secret by which its receiver tells that events are from here (Standard Webhooks). It is shown only now; keep it where the program keeps its passwords.`}</p>
    <input
      readOnly
      aria-label={speak`Secret of the address`}
      value={secret}
      className="box font-mono text-[13px]"
      onFocus={(event) => event.target.select()}
    />
    <div className="mt-2">
      <CopyButton text={secret} label={speak`Copy the secret`} />
    </div>
    <p className="mt-3 text-[14px]">{speak`It is told what happens from now on. Try it in the list.`}</p>
  </section>
);
