import { personChoices } from './person-choices';
import { useQuery } from '@tanstack/react-query';
import { Plus, UsersRound } from './icons';
import { useEffect, useState } from 'react';
import type { GrantInput, WhoData } from '../../contract/people';
import { call, fetched } from './call';
import { Sentence } from './Sentence';
import { Several } from './Several';
import { isLimitedAction } from '../../core/record/row-rules';
import {
  columnTaken,
  columnWordsOf,
  grantsOf,
  someOf,
  takenAway,
  wordsOf,
  type Action,
  type Saying,
  type Some,
} from './who-grants';
import { WhoColumns } from './WhoColumns';
import { Sights, SomeLine } from './WhoSome';
import { speak } from '../../core/wording/speak';
import { speakIn } from './speak-in';

interface WhoSentence {
  readonly action: Action;
  /** After “may”. */
  readonly does: string;
}

interface Props {
  /** Where it is read and said. */
  readonly path: string;
  readonly asked: readonly WhoSentence[];
  /** What goes as long as nothing was said of the first. */
  readonly unsaid: string | null;
  /** Told when something is chosen that is not saved yet, and when that is over. */
  readonly onChoosing?: (choosing: boolean) => void;
}

/** Who may do what, as it was last said. */
export const useWho = (path: string) =>
  useQuery({ queryKey: ['who', path], queryFn: () => fetched<WhoData>(path) });

/** Who may do what with a form or a table, as sentences with picks inside. */
export function Who({ path, asked, unsaid, onChoosing }: Props) {
  const { data, refetch } = useWho(path);
  return (
    <section className="margin-part first" aria-labelledby="who">
      <h2 id="who" className="margin-title">
        <UsersRound size={16} aria-hidden />
        {speak`Who`}
      </h2>
      {data !== undefined && (
        <Said
          key={data.grants.map(({ id }) => id).join()}
          data={data}
          path={path}
          asked={asked}
          unsaid={unsaid}
          {...(onChoosing !== undefined && { onChoosing })}
          done={async () => void (await refetch())}
        />
      )}
    </section>
  );
}

function Said({
  data,
  path,
  asked,
  unsaid,
  onChoosing,
  done,
}: Props & { data: WhoData; done: () => Promise<void> }) {
  const before: Saying = { words: wordsOf(data), some: someOf(data), columns: columnWordsOf(data) };
  const [said, putSaid] = useState(before);
  const [trouble, setTrouble] = useState('');
  const setSaid = (next: Saying) => {
    setTrouble('');
    putSaid(next);
  };
  /** Somebody else has said something meanwhile; what was meant here stays until it is looked at. */
  const [late, setLate] = useState(false);
  const told = said.some.filter(({ words }) => words.length > 0);
  const changed =
    asked.some(({ action }) => (said.words[action] ?? []).join() !== (before.words[action] ?? []).join()) ||
    JSON.stringify(said.some) !== JSON.stringify(before.some) ||
    JSON.stringify(said.columns) !== JSON.stringify(before.columns);
  useEffect(() => {
    onChoosing?.(changed);
    return () => onChoosing?.(false);
  }, [changed, onChoosing]);
  const unsaidRule = told.some(({ where }) => where.trim() === '');
  const grants = grantsOf(said.words, told, said.columns);
  const save = async () => {
    if (unsaidRule) return setTrouble(speak`Say for which records, or take the line away`);
    const seen = data.grants.map(({ id }) => id);
    const result = await call('PUT', path, {
      grants: isOfTable ? grants : grants.map(withoutWhere),
      seen,
      ...(isOfTable && { restricted: Object.keys(said.columns) }),
    }).catch(() => null);
    if (result?.ok === true) return done();
    setLate(result?.error.code === 'who-changed');
    setTrouble(
      result === null
        ? speak`The server cannot be reached; nothing was changed`
        : (result.error.issues?.[0]?.sentence ?? result.error.title),
    );
  };
  const isOfTable = data.records !== null;
  const setSome = (at: number, next: Some | null) =>
    setSaid({
      ...said,
      some: said.some.flatMap((one, i) => (i !== at ? [one] : next === null ? [] : [next])),
    });
  const choices = choicesOf(data);
  const [first] = asked;
  return (
    <>
      {asked.map(({ action, does }) => (
        <div key={action}>
          <Sentence>
            {data.mayChange ? (
              <Several
                label={speak`Who may ${action}`}
                values={said.words[action] ?? []}
                none={speak`Nobody`}
                choices={choices}
                onChange={(list) =>
                  setSaid({
                    ...said,
                    words: { ...said.words, [action]: settled(said.words[action] ?? [], list) },
                  })
                }
              />
            ) : (
              <strong>
                {(said.words[action] ?? [])
                  .map((word) => choices.find(({ value }) => value === word)?.short ?? speak`somebody`)
                  .join(', ') || speak`Nobody`}
              </strong>
            )}{' '}
            {speak`may ${does}`}
            {data.mayChange && isOfTable && isLimitedAction(action) && (
              <button
                type="button"
                className="button-plain text-[13px]"
                aria-label={speak`Somebody may ${does}, but some only`}
                onClick={() => setSaid({ ...said, some: [...said.some, { action, where: '', words: [] }] })}
              >
                <Plus size={13} aria-hidden />
                {speak`some only`}
              </button>
            )}
          </Sentence>
          {data.records !== null &&
            said.some.map(
              (some, i) =>
                some.action === action &&
                data.records !== null && (
                  <SomeLine
                    key={i}
                    records={data.records}
                    some={some}
                    choices={choices}
                    does={does}
                    mayChange={data.mayChange}
                    onSome={(next) => setSome(i, next)}
                  />
                ),
            )}
        </div>
      ))}
      {data.records !== null && (
        <WhoColumns
          table={data.records.table}
          columns={said.columns}
          choices={choices}
          mayChange={data.mayChange}
          onColumns={(columns) => setSaid({ ...said, columns })}
        />
      )}
      {unsaid !== null && first !== undefined && (said.words[first.action] ?? []).length === 0 && (
        <p className="mb-2 rounded-md bg-marker-soft px-2 py-1.5 text-[14px]">{unsaid}</p>
      )}
      {changed && (
        <>
          {asked
            // What becomes of what people see of a table is told in figures.
            .filter(({ action }) => !isOfTable || action !== 'see')
            .map(({ action, does }) => (
              <TakenAway key={action} names={takenAway(data, before, said, action)} does={does} />
            ))}
          {Object.keys(said.columns).map((id) => (
            <TakenAway
              key={id}
              names={columnTaken(data, before, said, id)}
              does={speak`see ${columnLabel(data, id)}`}
            />
          ))}
          {isOfTable && !unsaidRule && <Sights path={path} grants={grants} people={data.people} />}
          <span className="mt-1 flex gap-2">
            <button
              type="button"
              className="button button-go"
              onClick={() => void save()}
            >{speak`Save who may do what`}</button>
            <button
              type="button"
              className="button"
              onClick={() => setSaid(before)}
            >{speak`Leave it as it was`}</button>
          </span>
        </>
      )}
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
      {late && (
        <button
          type="button"
          className="button mt-1"
          onClick={() => void done()}
        >{speak`Show what stands there now`}</button>
      )}
    </>
  );
}

const columnLabel = ({ records }: WhoData, id: string): string =>
  [...(records?.table.columns ?? []), ...(records?.table.retired ?? [])].find((one) => one.id === id)
    ?.label ?? '';

/** A form is filled, seen and designed as a whole. */
const withoutWhere = ({ where: _, ...grant }: GrantInput): GrantInput => grant;

/** Everybody makes all others needless, and another beside everybody means not everybody. */
const settled = (before: readonly string[], after: readonly string[]): readonly string[] =>
  !after.includes('all') || after.length === 1
    ? after
    : before.includes('all')
      ? after.filter((word) => word !== 'all')
      : ['all'];

const SHOWN = 4;

function TakenAway({ names, does }: { names: readonly string[]; does: string }) {
  if (names.length === 0) return null;
  const more = names.length - SHOWN;
  return (
    <p className="mb-1 rounded-md bg-ochre-soft px-2 py-1.5 text-[14px] text-ochre">
      {speakIn`${names.slice(0, SHOWN).join(', ')}${more > 0 && speak` and ${more} more`} may then no longer ${does}`}
      .
    </p>
  );
}

const choicesOf = ({ people, groups }: WhoData) => [
  { value: 'all', label: speak`Everybody`, short: speak`Everybody` },
  ...groups.map(({ id, label, people: inside }) => ({
    value: `group ${id}`,
    label: `${label}, ${inside.length} ${inside.length === 1 ? speak`person` : speak`people`}`,
    short: label,
  })),
  { value: 'role owner', label: speak`All who design forms`, short: speak`All who design forms` },
  {
    value: 'role steward',
    label: speak`All who see to the tables`,
    short: speak`All who see to the tables`,
  },
  { value: 'role administrator', label: speak`Administrators`, short: speak`Administrators` },
  ...personChoices(people, (id) => `person ${id}`),
];
