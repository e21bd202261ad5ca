import { useQuery } from '@tanstack/react-query';
import { CircleAlert, Plus, UserRound, UsersRound } from '../kit/icons';
import { useCallback, useState } from 'react';
import type { PeopleData, PersonData } from '../../contract/people';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { newUuid } from '../../core/kernel/ids';
import { Root } from '../kit/Root';
import { useToMargin } from '../kit/use-to-margin';
import { GroupMargin } from './GroupMargin';
import { peopleIn, rolesOf } from './people-words';
import { PersonMargin } from './PersonMargin';
import { speak } from '../../core/wording/speak';

export default function PeopleView({ initial }: { initial: PeopleData }) {
  return (
    <Root>
      <People initial={initial} />
    </Root>
  );
}

/** Who or which group the margin is about; a new one has an id that is in no list yet. */
export interface InHand {
  readonly t: 'person' | 'group';
  readonly id: string;
}

function People({ initial }: { initial: PeopleData }) {
  const { data, refetch } = useQuery({
    queryKey: ['people'],
    queryFn: () => fetched<PeopleData>('/api/people'),
    initialData: initial,
  });
  useLive(
    [],
    useCallback(() => void refetch(), [refetch]),
  );
  const [inHand, setInHand] = useState<InHand | null>(null);
  useToMargin(inHand);
  const add = (t: InHand['t']) => setInHand({ t, id: newUuid() });
  const alone = data.people.length === 1;
  return (
    <>
      <div className="flex flex-wrap items-center justify-between gap-3 pt-4 pb-4">
        <h1 className="text-2xl">{speak`People`}</h1>
        <span className="flex flex-wrap gap-2">
          <a className="button no-underline" href="/workspace">{speak`Workspace`}</a>
          <a className="button no-underline" href="/tokens">{speak`API tokens`}</a>
          <a className="button no-underline" href="/events">{speak`Events`}</a>
          <a className="button no-underline" href="/trail">{speak`Trail`}</a>
          <a className="button no-underline" href="/personal-data">{speak`Data about people`}</a>
          <a className="button no-underline" href="/cases">{speak`Everything that waits`}</a>
          <a className="button no-underline" href="/people/directory">
            {data.listWaits && <CircleAlert size={15} aria-hidden className="text-rust" />}
            {data.listWaits ? speak`The list is not followed` : speak`From a list`}
          </a>
          <button type="button" className="button" onClick={() => add('group')}>
            <UsersRound size={16} aria-hidden />
            {speak`New group`}
          </button>
          <button type="button" className="button button-dark" onClick={() => add('person')}>
            <Plus size={16} aria-hidden />
            {speak`Add somebody`}
          </button>
        </span>
      </div>
      <div className="sheet-frame">
        <div>
          <PeopleList data={data} inHand={inHand} pick={setInHand} />
          {alone && (
            <p className="py-4 pr-5 pl-[46px]">{speak`You are alone here so far. Add your colleagues: each gets a link from you and chooses a password.`}</p>
          )}
          <GroupList data={data} inHand={inHand} pick={setInHand} />
        </div>
        <aside id="margin" className="margin-pane" aria-label={speak`Who is in hand`}>
          {inHand === null && (
            <section className="margin-part first">
              <h2 className="margin-title">{speak`Who may come in`}</h2>
              <p className="text-[14px]">{speak`Pick somebody to change what is known of them, to make them a link by which they choose a password, or to end their access. What they may do with a form or a table is said there, under Who.`}</p>
            </section>
          )}
          {inHand?.t === 'person' && (
            <PersonMargin key={inHand.id} data={data} id={inHand.id} done={() => void refetch()} />
          )}
          {inHand?.t === 'group' && (
            <GroupMargin
              key={inHand.id}
              data={data}
              id={inHand.id}
              done={(gone) => {
                void refetch();
                if (gone) setInHand(null);
              }}
            />
          )}
        </aside>
      </div>
    </>
  );
}

interface ListProps {
  readonly data: PeopleData;
  readonly inHand: InHand | null;
  readonly pick: (one: InHand) => void;
}

const line =
  'grid w-full grid-cols-[46px_minmax(0,1fr)_auto] items-center gap-2 py-2 pr-5 text-left hover:bg-slate-50';

function PeopleList({ data, inHand, pick }: ListProps) {
  const ordered = [...data.people].sort((a, b) => Number(a.ended) - Number(b.ended));
  return (
    <ul aria-label={speak`Everybody`}>
      {ordered.map((person) => (
        <li key={person.id} className="border-b border-slate-200">
          <button
            type="button"
            aria-pressed={inHand?.id === person.id}
            className={`${line} ${inHand?.id === person.id ? 'bg-lichen-soft' : ''}`}
            onClick={() => pick({ t: 'person', id: person.id })}
          >
            <UserRound size={16} aria-hidden className="mr-3 ml-auto text-slate-600" />
            <span className="min-w-0">
              <span className={`font-semibold ${person.ended ? 'text-slate-600 line-through' : ''}`}>
                {person.name}
              </span>{' '}
              <span className="quiet">{person.place}</span>
              <span className="quiet block truncate">
                {[person.email, rolesOf(person), ...groupsWords(data, person)]
                  .filter((words) => words !== '')
                  .join(' · ')}
              </span>
            </span>
            <State person={person} me={data.me} />
          </button>
        </li>
      ))}
    </ul>
  );
}

const groupsWords = ({ groups }: PeopleData, { id }: PersonData): string[] =>
  groups.filter(({ people }) => people.includes(id)).map(({ label }) => label);

function State({ person, me }: { person: PersonData; me: string }) {
  if (person.ended) return <span className="tag bg-slate-200">{speak`Has left`}</span>;
  if (!person.joined) return <span className="tag bg-marker">{speak`No password yet`}</span>;
  return person.id === me ? <span className="quiet">{speak`you`}</span> : null;
}

function GroupList({ data, inHand, pick }: ListProps) {
  if (data.groups.length === 0) return null;
  return (
    <>
      <h2 className="pt-4 pb-1 pl-[46px] text-lg">{speak`Groups`}</h2>
      <ul aria-label={speak`Groups`}>
        {data.groups.map((group) => {
          const { size } = peopleIn(data.groups, group.id);
          return (
            <li key={group.id} className="border-b border-slate-200">
              <button
                type="button"
                aria-pressed={inHand?.id === group.id}
                className={`${line} ${inHand?.id === group.id ? 'bg-lichen-soft' : ''}`}
                onClick={() => pick({ t: 'group', id: group.id })}
              >
                <UsersRound size={16} aria-hidden className="mr-3 ml-auto text-slate-600" />
                <span className="min-w-0">
                  <span className="font-semibold">{group.label}</span>
                  <span className="quiet block truncate">
                    {[
                      ...group.groups.map((id) => data.groups.find((one) => one.id === id)?.label ?? ''),
                      ...group.people.map((id) => data.people.find((one) => one.id === id)?.name ?? ''),
                    ].join(', ') || speak`Nobody yet`}
                  </span>
                </span>
                <span className="quiet tabular">
                  {size} {size === 1 ? speak`person` : speak`people`}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}
