import { useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import type { GrantInput, SightsData, WhoData } from '../../contract/people';
import { pickedFilterOf } from '../../core/check/pick';
import { pickedText } from '../../core/check/pick-text';
import { toShown, toStored } from '../../core/expression/stored-text';
import { allFilterables } from '../../core/record/filter';
import { readRowRule } from '../../core/record/row-rules';
import { rowRuleScope } from '../../core/record/table-scope';
import { issueSentence } from '../../core/wording/issue-sentence';
import { call } from './call';
import { ConditionAction } from './Condition';
import { FilterLine } from './FilterLine';
import type { FilterFault } from './filter-words';
import { digits } from '../../core/wording/numbers';
import { CircleX } from './icons';
import { Sentence } from './Sentence';
import { Several } from './Several';
import type { Some } from './who-grants';
import { speak } from '../../core/wording/speak';
import { speakIn } from './speak-in';

interface Props {
  readonly records: NonNullable<WhoData['records']>;
  readonly some: Some;
  readonly choices: Parameters<typeof Several>[0]['choices'];
  /** As in “may see its records”. */
  readonly does: string;
  readonly mayChange: boolean;
  /** Null to take it away. */
  readonly onSome: (some: Some | null) => void;
}

/** Who may do something with some records only, and with which: a sentence with picks inside. */
export function SomeLine({ records: { table, tables }, some, choices, does, mayChange, onSome }: Props) {
  const known = new Map([...tables, table].map((one) => [one.id, one]));
  const scope = rowRuleScope(table, known);
  const shown = toShown(some.where, scope);
  const put = (text: string) => onSome({ ...some, where: toStored(text, scope) });
  const written = (text: string): Promise<FilterFault | null> => {
    const read = readRowRule(toStored(text, scope), table, known);
    if (read.ok) put(text);
    const [first] = read.ok ? [] : read.error;
    const at: FilterFault['at'] =
      first !== undefined && 'from' in first.facts
        ? [Number(first.facts.from), Number(first.facts.to)]
        : null;
    return Promise.resolve(first === undefined ? null : { sentence: issueSentence(first), at });
  };
  const names = some.words.flatMap((word) => choices.find(({ value }) => value === word)?.short ?? []);
  return (
    <div className="mb-2 border-l-2 border-lichen pl-2" role="group" aria-label={speak`Some may ${does}`}>
      <Sentence>
        {mayChange ? (
          <Several
            label={speak`Who may ${some.action} some`}
            values={some.words}
            none={speak`Nobody`}
            choices={choices}
            onChange={(words) => onSome({ ...some, words })}
          />
        ) : (
          <strong>{names.join(', ')}</strong>
        )}{' '}
        {speak`may ${does}`}
      </Sentence>
      {mayChange ? (
        <ConditionAction value={speak`Use this`}>
          <span className="flex items-start gap-2">
            <FilterLine
              says={speak`where`}
              filterables={allFilterables(table, known)}
              where={shown}
              picked={pickedFilterOf(shown, scope)}
              onPicked={(picked) => put(pickedText(picked))}
              onWritten={written}
            />
            <button type="button" aria-label={speak`Take this line away`} onClick={() => onSome(null)}>
              <CircleX size={15} aria-hidden />
            </button>
          </span>
        </ConditionAction>
      ) : (
        <p className="text-[14px]">{speakIn`where ${(<code className="font-mono text-[13px] break-words">{shown}</code>)}`}</p>
      )}
    </div>
  );
}

const SHOWN = 5;

/** What people see of the table, and would see, before it is saved. */
export function Sights({
  path,
  grants,
  people,
}: {
  path: string;
  grants: readonly GrantInput[];
  people: WhoData['people'];
}) {
  const asked = useDeferredValue(JSON.stringify(grants));
  const { data, isError } = useQuery({
    queryKey: ['sights', path, asked],
    queryFn: async () => {
      const told = await call<SightsData>('POST', path.replace(/who$/, 'sights'), {
        grants: JSON.parse(asked) as unknown,
      });
      if (!told.ok) throw new Error(told.error.title);
      return told.value;
    },
    placeholderData: (before) => before,
    retry: false,
  });
  if (isError)
    return <p className="quiet">{speak`It could not be counted what becomes of what people see.`}</p>;
  if (data === undefined) return null;
  if (data.people.length === 0)
    return <p className="quiet mb-1">{speak`It makes no difference to which records anybody sees.`}</p>;
  const nameOf = (id: string) => people.find((one) => one.id === id)?.name ?? speak`Somebody`;
  const more = data.people.length - SHOWN + data.others;
  return (
    <ul
      className="mb-1 grid gap-1 rounded-md bg-slate-100 px-2 py-1.5 text-[14px]"
      aria-label={speak`What people would see`}
    >
      {data.people.slice(0, SHOWN).map(({ person, now, then, lost }) => (
        <li key={person}>
          {speakIn`${(<strong>{nameOf(person)}</strong>)} sees ${digits(then)} of ${digits(data.records)}`}
          {lost > 0 ? (
            <span className="text-ochre">{speak`; loses ${lost === now ? speak`all ` : ''}${digits(lost)} seen today.`}</span>
          ) : then > now ? (
            <>
              {', '}
              {speak`${digits(then - now)} more than today.`}
            </>
          ) : (
            speak`, as today.`
          )}
        </li>
      ))}
      {more > 0 && <li className="quiet">{speak`It makes a difference for ${more} more.`}</li>}
    </ul>
  );
}
