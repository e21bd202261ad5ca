import { isGuarded, type Table } from '../../core/table/model';
import { CircleX, Lock } from './icons';
import { Select } from './Select';
import { Sentence } from './Sentence';
import { Several } from './Several';
import type { Words } from './who-grants';
import { speak } from '../../core/wording/speak';
import { speakIn } from './speak-in';

interface Props {
  readonly table: Table;
  readonly columns: Words;
  readonly choices: Parameters<typeof Several>[0]['choices'];
  readonly mayChange: boolean;
  readonly onColumns: (columns: Words) => void;
}

/** Which columns are not for everybody who sees the table, and who sees them: a sentence each. */
export function WhoColumns({ table, columns, choices, mayChange, onColumns }: Props) {
  const all = [...table.columns, ...table.retired];
  const open = table.columns.filter(
    ({ id, kind }) => !(id in columns) && !table.title.includes(id) && kind !== 'files',
  );
  // Whoever may say nothing here is told of what they see.
  if (!mayChange && !isGuarded(table)) return null;
  const others = choices.filter(({ value }) => value !== 'all');
  const without = (id: string): Words =>
    Object.fromEntries(Object.entries(columns).filter(([column]) => column !== id));
  return (
    <div className="mt-2 border-t border-slate-200 pt-2" role="group" aria-label={speak`Restricted columns`}>
      {Object.entries(columns).map(([id, words]) => {
        const label = all.find((one) => one.id === id)?.label ?? '';
        return (
          <Sentence key={id}>
            <Lock size={13} className="mr-1 inline text-plum" aria-hidden />
            {speakIn`${(<strong className="text-plum">{label}</strong>)} is seen by`}{' '}
            {mayChange ? (
              <>
                <Several
                  label={speak`Who sees ${label}`}
                  values={words}
                  none={speak`those who design the table alone`}
                  choices={others}
                  onChange={(list) => onColumns({ ...columns, [id]: list })}
                />{' '}
                <button
                  type="button"
                  aria-label={speak`Restrict ${label} no more`}
                  title={speak`Everybody who sees the table sees it again`}
                  onClick={() => onColumns(without(id))}
                >
                  <CircleX size={15} aria-hidden />
                </button>
              </>
            ) : (
              <strong>
                {words
                  .map((word) => choices.find(({ value }) => value === word)?.short ?? speak`somebody`)
                  .join(', ') || speak`those who design the table alone`}
              </strong>
            )}
          </Sentence>
        );
      })}
      {mayChange && open.length > 0 && (
        <Select
          label={speak`Restrict a column`}
          value={null}
          placeholder={speak`restrict a column …`}
          choices={open.map(({ id, label }) => ({ value: id, label }))}
          onChange={(id) => onColumns({ ...columns, [id]: [] })}
        />
      )}
    </div>
  );
}
