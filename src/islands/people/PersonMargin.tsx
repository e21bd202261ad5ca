import { Copy, Eye, KeyRound, ShieldCheck, UserRoundMinus } from '../kit/icons';
import { useState } from 'react';
import type { InvitationData, PeopleData, PersonData, PersonInput } from '../../contract/people';
import { call } from '../kit/call';
import { Absences } from '../kit/Absences';
import { LookedList } from '../kit/LookedList';
import { Said } from '../kit/Said';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { when } from '../kit/when';
import { roleWords } from './people-words';
import { useSaying } from '../kit/use-saying';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly data: PeopleData;
  /** Of nobody yet, for somebody new. */
  readonly id: string;
  readonly done: () => void;
}

const nobody: PersonInput = { name: '', email: '', place: '', roles: [], manager: null, deputy: null };

/** Somebody in hand: who they are, how they come in, and how their access ends. */
export function PersonMargin({ data, id, done }: Props) {
  const person = data.people.find((one) => one.id === id);
  return (
    <>
      <Details data={data} id={id} person={person} done={done} />
      {person !== undefined && !person.ended && <Invitation person={person} done={done} />}
      {person !== undefined && person.asksCode && person.id !== data.me && (
        <TheirCodes person={person} done={done} />
      )}
      {person !== undefined && !person.ended && (
        <Absences
          key={id}
          person={id}
          called={id === data.me ? speak`You` : person.name}
          away={data.away.filter((one) => one.person === id)}
          people={data.people.filter(({ ended }) => !ended)}
          deputy={person.deputy}
          done={done}
        />
      )}
      {person !== undefined && !person.ended && person.id !== data.me && (
        <Eyes person={person} looked={data.looked.filter(({ as }) => as === id)} />
      )}
      {person !== undefined && person.id !== data.me && <Access data={data} person={person} done={done} />}
    </>
  );
}

function Details({ data, id, person, done }: Props & { readonly person: PersonData | undefined }) {
  const [input, setInput] = useState<PersonInput>(() =>
    person === undefined ? nobody : { ...person, roles: person.roles.filter((one) => one !== 'colleague') },
  );
  const { saying, say } = useSaying();
  const set = (part: Partial<PersonInput>) => setInput((before) => ({ ...before, ...part }));
  const save = () =>
    say(
      () => {
        const { name, email, place, roles, manager, deputy } = input;
        return call('PUT', `/api/people/${id}`, { name, email, place, roles, manager, deputy });
      },
      person === undefined ? speak`Added. Make them a link now, so that they can come in.` : speak`Saved.`,
      done,
    );
  const others = [
    { value: '', label: speak`nobody` },
    ...data.people
      .filter((one) => one.id !== id && !one.ended)
      .map((one) => ({ value: one.id, label: one.name })),
  ];
  const field = (key: 'name' | 'email' | 'place', label: string, type = 'text') => (
    <label className="mb-2 block text-[14px] font-semibold">
      {label}
      <input
        type={type}
        value={input[key]}
        maxLength={200}
        onChange={(event) => set({ [key]: event.target.value })}
        className={`box mt-0.5 font-normal ${saying.at === key ? 'wrong' : ''}`}
        aria-invalid={saying.at === key}
      />
    </label>
  );
  return (
    <form
      className="margin-part first"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <h2 className="margin-title">{person === undefined ? speak`Somebody new` : person.name}</h2>
      {person?.listed === true && (
        <p className="quiet mb-2 text-[14px]">{speakIn`Came by ${(<a href="/people/directory">{speak`the list of people`}</a>)}: what it tells of them is changed there.`}</p>
      )}
      {field('name', speak`Name`)}
      {field('email', 'E-mail', 'email')}
      {field('place', speak`Place or team`)}
      <fieldset className="mb-2 text-[14px]">
        <legend className="font-semibold">{speak`Besides filling forms`}</legend>
        {(Object.keys(roleWords()) as (keyof ReturnType<typeof roleWords>)[]).map((role) => (
          <label key={role} className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              checked={input.roles.includes(role)}
              onChange={(event) =>
                set({
                  roles: event.target.checked
                    ? [...input.roles, role]
                    : input.roles.filter((one) => one !== role),
                })
              }
            />
            {roleWords()[role]}
          </label>
        ))}
      </fieldset>
      <Sentence>{speakIn`Works under ${(
        <Select
          label={speak`Manager`}
          value={input.manager ?? ''}
          choices={others}
          onChange={(to) => set({ manager: to === '' ? null : to })}
        />
      )} and their deputy is ${(
        <Select
          label={speak`Deputy`}
          value={input.deputy ?? ''}
          choices={others}
          onChange={(to) => set({ deputy: to === '' ? null : to })}
        />
      )}`}</Sentence>
      <button type="submit" className="button button-go mt-1" disabled={saying.busy}>
        {person === undefined ? speak`Add them` : speak`Save`}
      </button>
      <Said saying={saying} />
    </form>
  );
}

/** The link is shown once: nobody can look it up again, only make another. */
function Invitation({ person, done }: { person: PersonData; done: () => void }) {
  const [link, setLink] = useState<InvitationData | null>(null);
  const [copied, setCopied] = useState(false);
  const { saying, say } = useSaying();
  const make = () =>
    say(
      async () => {
        const result = await call<InvitationData>('POST', `/api/people/${person.id}/invite`, {});
        if (result.ok) setLink(result.value);
        setCopied(false);
        return result;
      },
      '',
      done,
    );
  const address = link === null ? '' : `${location.origin}${link.path}`;
  return (
    <section className="margin-part" aria-labelledby="coming-in">
      <h2 id="coming-in" className="margin-title">
        <KeyRound size={16} aria-hidden />
        {speak`Coming in`}
      </h2>
      {link === null ? (
        <>
          <p className="mb-2 text-[14px]">
            {person.joined
              ? speak`They have a password. If they have forgotten it, make them a link to choose another.`
              : speak`They have no password yet. Make them a link by which they choose one.`}
          </p>
          <button
            type="button"
            className="button"
            disabled={saying.busy}
            onClick={() => void make()}
          >{speak`Make a link`}</button>
        </>
      ) : (
        <>
          <p className="mb-2 text-[14px]">
            {speak`${
              link.mailed
                ? speak`It is on its way to ${person.email}. Here it is as well, for now only: `
                : speak`Send this to ${person.name}. It is shown only now, `
            }is good once, and until ${when(link.expiresAt)}`}
            .
          </p>
          <input
            readOnly
            aria-label={speak`Link`}
            value={address}
            className="box font-mono text-[13px]"
            onFocus={(event) => event.target.select()}
          />
          <button
            type="button"
            className="button mt-2"
            onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}
          >
            <Copy size={15} aria-hidden />
            {copied ? speak`Copied` : speak`Copy the link`}
          </button>
        </>
      )}
      <Said saying={saying} />
    </section>
  );
}

/** Whoever has lost what their codes come from asks an administrator, who knows them. */
function TheirCodes({ person, done }: { readonly person: PersonData; readonly done: () => void }) {
  const { saying, say } = useSaying();
  return (
    <section className="margin-part" aria-labelledby="codes">
      <h2 id="codes" className="margin-title">
        <ShieldCheck size={16} aria-hidden />
        {speak`Codes`}
      </h2>
      <p className="mb-2 text-[14px]">{speak`Signing in asks them for a code besides. If they have lost their program and their spare codes, take that off; wherever they are signed in, they have to sign in again.`}</p>
      <button
        type="button"
        className="button"
        disabled={saying.busy}
        onClick={() => void say(() => call('DELETE', `/api/people/${person.id}/second-step`, {}), '', done)}
      >{speak`Take their codes off`}</button>
      <Said saying={saying} />
    </section>
  );
}

/** What they see is seen by looking as them; that somebody did stands here, and on their account. */
function Eyes({ person, looked }: { readonly person: PersonData; readonly looked: PeopleData['looked'] }) {
  const { saying, say } = useSaying();
  const look = () =>
    say(
      () => call('POST', `/api/people/${person.id}/look-as`, {}),
      '',
      () => location.assign('/'),
    );
  return (
    <section className="margin-part" aria-labelledby="eyes">
      <h2 id="eyes" className="margin-title">
        <Eye size={16} aria-hidden />
        {speak`What they see`}
      </h2>
      <p className="mb-2 text-[14px]">{speak`Look as they do: every page as it is for them, and nothing can be changed. That you did is kept, and they can read it.`}</p>
      <button
        type="button"
        className="button"
        disabled={saying.busy}
        onClick={() => void look()}
      >{speak`Look as ${person.name}`}</button>
      <Said saying={saying} />
      <LookedList looked={looked} />
    </section>
  );
}

function Access({ data, person, done }: { data: PeopleData; person: PersonData; done: () => void }) {
  const [to, setTo] = useState<string | null>(null);
  const { saying, say } = useSaying();
  if (person.ended)
    return (
      <section className="margin-part">
        <p className="mb-2 text-[14px]">{speak`${person.name} has left. What they did stays under their name.`}</p>
        <button
          type="button"
          className="button"
          onClick={() => void say(() => call('POST', `/api/people/${person.id}/begin`, {}), '', done)}
        >{speak`Let them in again`}</button>
        <Said saying={saying} />
      </section>
    );
  return (
    <section className="margin-part" aria-labelledby="leaving">
      <h2 id="leaving" className="margin-title">
        <UserRoundMinus size={16} aria-hidden />
        {speak`Leaving`}
      </h2>
      <Sentence>
        {person.forms === 0
          ? speak`What they may do goes to `
          : speak`Their ${person.forms === 1 ? speak`form goes` : speak`${person.forms} forms go`} to `}
        <Select
          label={speak`Who takes over`}
          value={to}
          placeholder={speak`say who`}
          choices={data.people
            .filter((one) => one.id !== person.id && !one.ended)
            .map((one) => ({ value: one.id, label: one.name }))}
          onChange={setTo}
        />
      </Sentence>
      <button
        type="button"
        className="button button-stop"
        disabled={to === null || saying.busy}
        onClick={() => void say(() => call('POST', `/api/people/${person.id}/end`, { to }), '', done)}
      >{speak`End their access now`}</button>
      <Said saying={saying} />
    </section>
  );
}
