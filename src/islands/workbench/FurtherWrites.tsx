import { PEOPLE } from '../../core/expression/type';
import { groupsOf, type LookupQuestion } from '../../core/form/design';
import { lookupsFor } from '../../core/form/further-writes';
import { newShortId } from '../../core/kernel/ids';
import type { FurtherWrite } from '../../core/storage/further-write';
import { furtherSentence } from '../../core/wording/further-sentence';
import { FilePen, FilePlus2, Plus } from '../kit/icons';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { Troubles } from './Troubles';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly inHand: string | null;
  readonly onPick: (id: string) => void;
}

/** What is written besides when a sheet is kept, each as a sentence. */
export function FurtherWrites({ bench, inHand, onPick }: Props) {
  const writes = bench.design.further ?? [];
  return (
    <section aria-labelledby="further">
      <h2
        id="further"
        className="border-b border-slate-200 py-3 pl-[46px] font-sans text-[15px] max-sm:pl-3"
      >{speakIn`When it is kept, it also ${(
        <span className="quiet font-normal">
          {writes.length === 0
            ? speak`may change a record that was picked, or add one to another table`
            : speak`together with it, or not at all`}
        </span>
      )}`}</h2>
      <ul>
        {writes.map((write) => (
          <WriteLine
            key={write.id}
            bench={bench}
            write={write}
            inHand={write.id === inHand}
            onPick={() => onPick(write.id)}
          />
        ))}
      </ul>
      <AddWrite bench={bench} onAdded={onPick} />
    </section>
  );
}

function WriteLine({
  bench,
  write,
  inHand,
  onPick,
}: {
  bench: Workbench;
  write: FurtherWrite;
  inHand: boolean;
  onPick: () => void;
}) {
  const Icon = write.t === 'add' ? FilePlus2 : FilePen;
  return (
    <li
      className={`line relative ${inHand ? 'bg-lichen-soft before:absolute before:inset-y-0 before:left-0 before:w-1 before:bg-lichen' : ''}`}
    >
      <span className="gutter">
        <Icon size={15} aria-hidden className="ml-auto" />
      </span>
      <div>
        <button
          type="button"
          aria-pressed={inHand}
          onClick={onPick}
          className="block w-full rounded text-left break-words"
        >
          {furtherSentence(write, bench.design, bench.tables)}
        </button>
        <Troubles bench={bench} id={write.id} />
      </div>
    </li>
  );
}

function AddWrite({ bench, onAdded }: { bench: Workbench; onAdded: (id: string) => void }) {
  const { design, data } = bench;
  const isOpen = ({ table }: LookupQuestion): boolean => table !== '' && table !== PEOPLE;
  const lookups = [
    ...lookupsFor(design, undefined).map((lookup) => ({ lookup, each: undefined, of: '' })),
    ...groupsOf(design).flatMap(({ id, label, columns }) =>
      columns.flatMap((one) =>
        one.kind === 'lookup' ? [{ lookup: one, each: id, of: speak` in each row of ${label}` }] : [],
      ),
    ),
  ].filter(({ lookup }) => isOpen(lookup));
  const add = (write: FurtherWrite) => {
    bench.edit((now) => ({ ...now, further: [...(now.further ?? []), write] }));
    onAdded(write.id);
  };
  const tables = data.tables.filter(({ id, parent }) => id !== PEOPLE && parent === null);
  return (
    <div className="line border-b-0">
      <span className="gutter">
        <Plus size={15} aria-hidden className="ml-auto" />
      </span>
      <div>
        {lookups.length > 0 && (
          <Sentence>{speakIn`Change the record picked at ${(
            <Select
              label={speak`Lookup whose record is changed`}
              value={null}
              placeholder={speak`a lookup`}
              choices={lookups.map(({ lookup, of }) => ({
                value: lookup.id,
                label: `${lookup.label}${of}`,
              }))}
              onChange={(id) => {
                const each = lookups.find(({ lookup }) => lookup.id === id)?.each;
                add({
                  t: 'change',
                  id: newShortId(),
                  lookup: id,
                  sets: [],
                  ...(each !== undefined && { each }),
                });
              }}
            />
          )}`}</Sentence>
        )}
        <Sentence>{speakIn`Add a record to ${(
          <Select
            label={speak`Table a record is added to`}
            value={null}
            placeholder={speak`a table`}
            choices={tables.map(({ id, label }) => ({ value: id, label }))}
            onChange={(table) => add({ t: 'add', id: newShortId(), table, sets: [] })}
          />
        )}`}</Sentence>
      </div>
    </div>
  );
}
