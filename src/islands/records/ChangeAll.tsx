import { useState } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import type { RecordData, RecordsData, TableAtWork } from '../../contract/answers-from-server';
import { MOST_STAGED, stagedOf, typeCell, type TypedCell } from '../../core/record/staged';
import { isTypedIn, type Column } from '../../core/table/model';
import { counted, digits } from '../../core/wording/numbers';
import { fetched } from '../kit/call';
import { PencilLine } from '../kit/icons';
import { Select } from '../kit/Select';
import { CellEditor } from './CellEditor';
import { editedRecord, shownCell } from './record-cells';
import type { useBulk } from './use-bulk';
import { addressOf, type Query } from './use-records';
import type { StagedEdits } from './use-staged';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly work: TableAtWork;
  readonly asked: Query;
  readonly total: number;
  /** Whether there are more than `total`. */
  readonly about: boolean;
  /** Begins to change them by a job; false where it could not be begun. */
  readonly onBulk: ReturnType<typeof useBulk>['begin'];
  readonly edits: StagedEdits;
  readonly targetKey: (column: Column) => string | null;
}

/**
 * Writes one value in a column of all records that are found; staged like everything else, so that it is
 * looked over and can be dropped.
 */
export function ChangeAll(props: Props) {
  return (
    <DialogTrigger>
      <Button className="button-plain text-lichen-deep!">
        <PencilLine size={14} aria-hidden />
        {speak`change all ${props.about ? speak`${digits(props.total)} and more` : digits(props.total)}`}
      </Button>
      <Popover className="popover w-80 max-w-[92vw] overflow-visible p-3!">
        <Dialog aria-label={speak`Change all that are found`} className="outline-none">
          {({ close }) => <Change {...props} close={close} />}
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}

function Change({
  work,
  asked,
  total,
  about,
  onBulk,
  edits,
  targetKey,
  close,
}: Props & { readonly close: () => void }) {
  const { table } = work;
  const [id, setId] = useState(table.columns.find(isTypedIn)?.id ?? '');
  const [cell, setCell] = useState<TypedCell>({ raw: null });
  const [isOpen, setOpen] = useState(false);
  const [state, setState] = useState<'asked' | 'reading' | 'failed'>('asked');
  const column = table.columns.find((one) => one.id === id);
  if (column === undefined) return null;
  const text = shownCell(column, cell);
  const isBulk = about || total > MOST_STAGED;
  const stage = async () => {
    setState('reading');
    const rows = await allFound(table.key, asked).catch(() => null);
    if (rows === null) return setState('failed');
    edits.edit((staged) =>
      rows
        .filter((row) => stagedOf(staged, row.id)?.t !== 'remove')
        .reduce((all, row) => typeCell(all, editedRecord(table, row), column, cell), staged),
    );
    close();
  };
  const begin = async () => {
    setState('reading');
    const { find, where } = asked;
    await onBulk({ find, where, column: id, value: cell.raw, title: cell.title ?? '' });
    close();
  };
  return (
    <div className="grid gap-2">
      <p>{speakIn`Set ${(
        <Select
          label={speak`Column to set`}
          value={id}
          choices={table.columns.filter(isTypedIn).map((one) => ({ value: one.id, label: one.label }))}
          onChange={(next) => {
            setId(next);
            setCell({ raw: null });
          }}
        />
      )} to`}</p>
      <div className="relative min-h-9">
        {isOpen ? (
          <CellEditor
            column={column}
            cell={cell}
            start={null}
            target={targetKey(column)}
            onDone={(next) => {
              if (next !== null) setCell(next);
              setOpen(false);
            }}
          />
        ) : (
          <button
            type="button"
            className="box min-h-9 text-left"
            aria-label={speak`What to set ${column.label} to: ${text === '' ? speak`empty` : text}`}
            onClick={() => setOpen(true)}
          >
            {text === '' ? <span className="text-slate-600">{speak`empty`}</span> : text}
          </button>
        )}
      </div>
      <p className="quiet">{speakIn`In ${about && speak`more than `}${counted(total, 'record')}. ${
        isBulk
          ? speak`So many are saved at once, some at a time, while you go on working. You see how far it is, can stop it, and take it back as a whole.`
          : speak`Nothing is saved yet: it is staged, and you look it over first.`
      }`}</p>
      {state === 'failed' && (
        <p
          role="alert"
          className="trouble mt-0!"
        >{speak`The records could not be fetched; nothing was changed. Try again in a moment.`}</p>
      )}
      <p>
        <button
          type="button"
          className="button button-dark"
          disabled={state === 'reading'}
          onClick={() => void (isBulk ? begin() : stage())}
        >
          {isBulk ? speak`Change them all` : state === 'reading' ? speak`Reading them` : speak`Stage it`}
        </button>
      </p>
    </div>
  );
}

/** Every record that is found, lot by lot. */
async function allFound(key: string, asked: Query): Promise<RecordData[]> {
  const rows: RecordData[] = [];
  for (;;) {
    const last = rows.at(-1);
    const address = `${addressOf({ ...asked, columns: '' })}${last === undefined ? '' : `&after=${last.id}`}`;
    const page = await fetched<RecordsData>(`/api/tables/${key}/records?${address}`);
    rows.push(...page.rows);
    if (!page.more.after || page.rows.length === 0 || rows.length > MOST_STAGED) return rows;
  }
}
