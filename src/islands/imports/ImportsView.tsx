import { useQuery } from '@tanstack/react-query';
import { FileSpreadsheet, Upload } from '../kit/icons';
import { useState } from 'react';
import { Button, DropZone, FileTrigger, type DropItem } from 'react-aria-components';
import type { ImportSummary } from '../../contract/imports';
import type { ImportState } from '../../core/import/import';
import { fail } from '../../core/kernel/result';
import { fetched } from '../kit/call';
import { Root } from '../kit/Root';
import { when } from '../kit/when';
import { bringFiles } from './bring-files';
import { speak, spoken } from '../../core/wording/speak';

interface Listed {
  readonly imports: readonly ImportSummary[];
}

export default function ImportsView({ initial }: { initial: Listed }) {
  return (
    <Root>
      <Imports initial={initial} />
    </Root>
  );
}

function Imports({ initial }: { initial: Listed }) {
  const { data } = useQuery({
    queryKey: ['imports'],
    queryFn: () => fetched<Listed>('/api/imports'),
    initialData: initial,
  });
  return (
    <>
      <p className="quiet pt-4">
        <a href="/tables" className="crumb">{speak`Tables`}</a>
      </p>
      <h1 className="pb-4 text-2xl">{speak`Import sheets`}</h1>
      <div className="sheet-frame">
        <section aria-label={speak`Bring sheets`} className="p-6">
          <Bring />
        </section>
        <aside id="margin" className="margin-pane" aria-label={speak`About importing`}>
          <div className="margin-part first">
            <h2 className="margin-title">{speak`What happens to a sheet`}</h2>
            <ol className="list-decimal space-y-1.5 pl-5 text-[14px]">
              <li>{speak`It is read: the kinds of its columns, keys, choices, and what one sheet says of another.`}</li>
              <li>{speak`You see the tables that would come of it, with first rows in them, and accept, correct or decline each proposal.`}</li>
              <li>{speak`All of it becomes tables at once, or nothing does.`}</li>
            </ol>
          </div>
          <div className="margin-part">
            <h2 className="margin-title">{speak`Your imports`}</h2>
            {data.imports.length === 0 && <p className="quiet">{speak`None yet.`}</p>}
            <ul className="space-y-2">
              {data.imports.map((one) => (
                <Recent key={one.id} one={one} />
              ))}
            </ul>
          </div>
        </aside>
      </div>
    </>
  );
}

function Bring() {
  const [sent, setSent] = useState<{ bytes: number; of: number } | null>(null);
  const [trouble, setTrouble] = useState('');
  const bring = async (files: readonly File[]): Promise<void> => {
    if (files.length === 0) return;
    setTrouble('');
    const of = files.reduce((sum, { size }) => sum + size, 0);
    setSent({ bytes: 0, of });
    const done = await bringFiles(files, (bytes) => setSent({ bytes, of })).catch(() =>
      fail('The server could not be reached. Nothing was made; try again'),
    );
    if (done.ok) location.assign(`/imports/${done.value}`);
    else {
      setTrouble(done.error);
      setSent(null);
    }
  };
  const dropped = async (items: readonly DropItem[]): Promise<void> =>
    bring(await Promise.all(items.flatMap((item) => (item.kind === 'file' ? [item.getFile()] : []))));
  return (
    <DropZone
      aria-label={speak`Drop sheets here`}
      onDrop={({ items }) => void dropped(items)}
      className="grid min-h-[46vh] place-items-center rounded-lg border-2 border-dashed border-slate-300 bg-slate-50 p-6 text-center data-[drop-target]:border-lichen data-[drop-target]:bg-lichen-soft"
    >
      <div>
        <FileSpreadsheet size={34} aria-hidden className="mx-auto mb-3 text-slate-500" />
        {sent === null ? (
          <>
            <p className="mb-1 font-serif text-[19px] font-semibold">{speak`Drop your sheets here`}</p>
            <p className="quiet mb-4">{speak`CSV files and XLSX workbooks, several at once: what they say of one another is found.`}</p>
            <FileTrigger
              allowsMultiple
              acceptedFileTypes={['.csv', '.tsv', '.txt', '.xlsx', 'text/csv']}
              onSelect={(files) => void bring([...(files ?? [])])}
            >
              <Button className="button button-go">
                <Upload size={16} aria-hidden />
                {speak`Choose files`}
              </Button>
            </FileTrigger>
          </>
        ) : (
          <div role="status">
            <p className="mb-2 font-semibold">
              {sent.bytes < sent.of
                ? speak`Sending: ${megabytes(sent.bytes)} of ${megabytes(sent.of)} MB`
                : speak`Sent; now it is read`}
            </p>
            <progress
              className="h-2 w-72 max-w-full accent-lichen"
              max={Math.max(1, sent.of)}
              value={sent.bytes}
              aria-label={speak`How much is sent`}
            />
          </div>
        )}
        {trouble !== '' && (
          <p role="alert" className="trouble mt-4 justify-center">
            {trouble}
          </p>
        )}
      </div>
    </DropZone>
  );
}

const megabytes = (bytes: number): string => (bytes / 1_000_000).toFixed(1);

const stateWords = spoken((): Readonly<Record<ImportState, string>> => ({
  uploading: speak`never arrived`,
  reading: speak`being read`,
  proposed: speak`waits for you`,
  trying: speak`being tried out`,
  keeping: speak`being kept`,
  kept: speak`kept`,
  refused: speak`refused rows wait for you`,
  failed: speak`could not be read`,
  cancelled: speak`cancelled`,
}));

function Recent({ one }: { one: ImportSummary }) {
  const waits = one.state === 'proposed' || one.state === 'refused';
  return (
    <li className="text-[14px]">
      <a href={`/imports/${one.id}`} className="font-semibold break-words text-ink">
        {one.files.join(', ')}
      </a>
      <span className="quiet block">
        {waits ? <span className="marked">{stateWords()[one.state]}</span> : stateWords()[one.state]}
        {one.tables.length > 0 && `: ${one.tables.join(', ')}`} · {when(one.updatedAt)}
      </span>
    </li>
  );
}
