import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { TrailData, TrailLineData, TrailLinesData } from '../../contract/trail';
import { typedDay } from '../../core/formats/days';
import { trailSubjects } from '../../core/trail/line';
import { counted } from '../../core/wording/numbers';
import { subjectWords } from '../../core/wording/trail-sentence';
import { WakesLater } from '../kit/Awake';
import { fetched } from '../kit/call';
import { DateInput } from '../kit/DateInput';
import { Download, ShieldCheck, TriangleAlert } from '../kit/icons';
import { personChoices } from '../kit/person-choices';
import { Root } from '../kit/Root';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { when } from '../kit/when';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export default function TrailView({ initial }: { initial: TrailData }) {
  return (
    <Root>
      <WakesLater load={loadCalendar}>
        <Trail initial={initial} />
      </WakesLater>
    </Root>
  );
}

const loadCalendar = async (): Promise<void> => void (await import('../kit/Calendar'));

interface Asked {
  readonly by: string;
  readonly about: string;
  readonly from: string;
  readonly until: string;
  readonly find: string;
}
const everything: Asked = { by: '', about: '', from: '', until: '', find: '' };

function Trail({ initial }: { initial: TrailData }) {
  const [asked, setAsked] = useState(everything);
  const { data, hasNextPage, fetchNextPage, isFetchingNextPage, isError } = useInfiniteQuery({
    queryKey: ['trail', asked],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      fetched<TrailLinesData>(
        `/api/trail?${new URLSearchParams({ ...asked, ...(pageParam > 0 && { before: String(pageParam) }) }).toString()}`,
      ),
    getNextPageParam: ({ lines, more }) => (more ? lines.at(-1)?.id : undefined),
    ...(asked === everything && {
      initialData: { pages: [{ lines: initial.lines, more: initial.more }], pageParams: [0] },
    }),
  });
  const lines = data?.pages.flatMap((page) => page.lines) ?? [];
  return (
    <>
      <p className="quiet pt-4">
        <a href="/people" className="crumb">{speak`People`}</a>
      </p>
      <h1 className="pb-4 text-2xl">{speak`Trail`}</h1>
      <div className="sheet-frame">
        <section aria-label={speak`What was done`}>
          {isError ? (
            <p
              role="alert"
              className="trouble p-5"
            >{speak`The trail cannot be read just now. Try again in a moment.`}</p>
          ) : data === undefined ? (
            <p className="quiet p-5">{speak`Looking it up…`}</p>
          ) : lines.length === 0 ? (
            <p className="p-5">{speak`Nothing that was done is like this. Ask for less in the margin.`}</p>
          ) : (
            <ol aria-label={speak`Lines of the trail, newest first`}>
              {lines.map((line) => (
                <Line key={line.id} line={line} />
              ))}
            </ol>
          )}
          {hasNextPage && (
            <p className="p-4 pl-5">
              <button
                type="button"
                className="button"
                disabled={isFetchingNextPage}
                onClick={() => void fetchNextPage()}
              >{speak`Show older lines`}</button>
            </p>
          )}
        </section>
        <aside id="margin" className="margin-pane" aria-label={speak`What is shown of the trail`}>
          <Filter people={initial.people} asked={asked} set={setAsked} />
          <Seal initial={initial} asked={asked} />
        </aside>
      </div>
    </>
  );
}

const Line = ({ line: { at, by, token, address, sentence, changed } }: { readonly line: TrailLineData }) => (
  <li className="grid gap-x-4 border-b border-slate-200 px-5 py-2 sm:grid-cols-[11.5rem_minmax(0,1fr)_minmax(0,12rem)]">
    <span className="quiet tabular-nums">{when(at)}</span>
    <span className="min-w-0">
      <span className="font-semibold break-words">{sentence}</span>
      {changed.map((one, i) => (
        <span key={i} className="quiet block break-words" dir="auto">
          {one}
        </span>
      ))}
    </span>
    <span className="text-right max-sm:text-left">
      {by === '' ? <span className="quiet">{speak`nobody signed in`}</span> : by}
      {token !== '' && <span className="quiet block break-words">{speak`by ${token}`}</span>}
      {address !== '' && <span className="quiet block font-mono text-[12px] break-all">{address}</span>}
    </span>
  </li>
);

interface FilterProps {
  readonly people: TrailData['people'];
  readonly asked: Asked;
  readonly set: (asked: Asked) => void;
}

function Filter({ people, asked, set }: FilterProps) {
  const [words, setWords] = useState('');
  // A day that is half typed asks for nothing yet.
  const [typed, setTyped] = useState({ from: '', until: '' });
  const day = (name: 'from' | 'until', label: string) => (
    <>
      {name}{' '}
      <DateInput
        label={label}
        value={typed[name]}
        onChange={(text) => {
          setTyped({ ...typed, [name]: text ?? '' });
          const read = text === null || text === '' ? '' : typedDay(text);
          if (read !== null) set({ ...asked, [name]: read });
        }}
      />
    </>
  );
  return (
    <section className="margin-part first" aria-labelledby="shown">
      <h2 id="shown" className="margin-title">{speak`What is shown`}</h2>
      <Sentence>{speakIn`What ${(
        <Select
          label={speak`Who did it`}
          value={asked.by}
          choices={[{ value: '', label: speak`anybody` }, ...personChoices(people)]}
          onChange={(by) => set({ ...asked, by })}
        />
      )} did about ${(
        <Select
          label={speak`What it is about`}
          value={asked.about}
          choices={[
            { value: '', label: speak`anything` },
            ...trailSubjects.map((one) => ({ value: one, label: subjectWords()[one] })),
          ]}
          onChange={(about) => set({ ...asked, about })}
        />
      )}`}</Sentence>
      <Sentence>{day('from', speak`From which day`)}</Sentence>
      <Sentence>{day('until', speak`Until which day`)}</Sentence>
      <form
        role="search"
        className="mt-1 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          set({ ...asked, find: words.trim() });
        }}
      >
        <input
          type="search"
          aria-label={speak`Words in it`}
          placeholder={speak`Words in it`}
          value={words}
          maxLength={200}
          className="box"
          onChange={(event) => setWords(event.target.value)}
        />
        <button type="submit" className="button shrink-0">{speak`Find`}</button>
      </form>
    </section>
  );
}

function Seal({
  initial: { sealed, seal, broken },
  asked,
}: {
  readonly initial: TrailData;
  readonly asked: Asked;
}) {
  const address = (format: string) =>
    `/api/trail/file?${new URLSearchParams({ ...asked, format }).toString()}`;
  return (
    <section className="margin-part" aria-labelledby="whole">
      <h2 id="whole" className="margin-title">
        {broken === null ? <ShieldCheck size={16} aria-hidden /> : <TriangleAlert size={16} aria-hidden />}
        {speak`Whether it is whole`}
      </h2>
      {broken === null ? (
        <p className="mb-2 text-[14px]">{speak`${counted(sealed, 'line')} ${sealed === 1 ? speak`is` : speak`are`} as written. Each is sealed with the one before it, so that a line that is changed or missing shows.`}</p>
      ) : (
        <p
          role="alert"
          className="trouble mb-2"
        >{speak`Line ${broken} is not as it was written, or one before it is missing. Whoever keeps the database has to look into it.`}</p>
      )}
      <p className="quiet mb-3 break-all">{speakIn`The last seal: ${(<span className="font-mono text-[12px]">{seal.slice(0, 32)}</span>)}`}</p>
      <span className="flex flex-wrap gap-2">
        {(['csv', 'xlsx'] as const).map((format) => (
          <a key={format} className="button no-underline" href={address(format)} download>
            <Download size={15} aria-hidden />
            {format.toUpperCase()}
          </a>
        ))}
      </span>
    </section>
  );
}
