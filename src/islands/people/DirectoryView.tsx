import { useState } from 'react';
import type { DirectoryData } from '../../contract/people';
import type { FollowedList } from '../../contract/people-list';
import type { DirectoryPlan } from '../../core/directory/directory-plan';
import { directoryRows, type DirectoryRow } from '../../core/directory/directory-rows';
import { limits } from '../../core/limits';
import { counted } from '../../core/wording/numbers';
import { call, troubleInFull } from '../kit/call';
import { FileSpreadsheet } from '../kit/icons';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';
import { FromAddress } from './FromAddress';
import { PlanLooked, PlanPart } from './PlanLooked';

interface Read {
  readonly name: string;
  readonly rows: readonly DirectoryRow[];
  readonly unread: readonly string[];
}

/** Brings people in from a list, once it was looked over: a file, or an address that is followed. */
export default function DirectoryView({ initial }: { initial: FollowedList }) {
  return (
    <>
      <p className="pt-4 text-[14px]">
        <a href="/people">{speak`People`}</a>
      </p>
      <h1 className="pb-3 text-2xl">{speak`People from a list`}</h1>
      <div className="sheet-frame">
        <div className="grid grid-cols-[minmax(0,1fr)] content-start gap-6 py-4 pr-5 pl-[46px] max-sm:pl-3">
          <FromFile />
          <FromAddress initial={initial} />
        </div>
        <aside id="margin" className="margin-pane" aria-label={speak`What a list needs`}>
          <section className="margin-part first">
            <h2 className="margin-title">{speak`What a list needs`}</h2>
            <p className="text-[14px]">{speakIn`Its first line has headings: ${(<strong>{speak`E-mail`}</strong>)} and ${(<strong>{speak`Name`}</strong>)} (or First name and Last name), and where they are to be known ${(<strong>{speak`Place`}</strong>)}, ${(<strong>{speak`Manager`}</strong>)} (their e-mail), ${(<strong>{speak`Groups`}</strong>)} (parted by semicolons) and ${(<strong>{speak`Active`}</strong>)} (no for whoever has left). At an address the fields of its entries are called so. People are recognised by their e-mail.`}</p>
            <p className="mt-2 text-[14px]">{speak`Nothing changes before you have looked it over. What they may do stays as it is, and so does what the list does not tell.`}</p>
          </section>
        </aside>
      </div>
    </>
  );
}

function FromFile() {
  const [read, setRead] = useState<Read | null>(null);
  const [looked, setLooked] = useState<DirectoryData | null>(null);
  const [leave, setLeave] = useState<ReadonlySet<string>>(new Set());
  const [trouble, setTrouble] = useState('');
  const [done, setDone] = useState('');
  const [busy, setBusy] = useState(false);
  const attempt = async (work: () => Promise<string | null>) => {
    setBusy(true);
    setTrouble((await work().catch(() => speak`The server cannot be reached; nothing was changed`)) ?? '');
    setBusy(false);
  };
  const plan = (list: Read) =>
    attempt(async () => {
      const result = await call<DirectoryData>('POST', '/api/people/directory', { rows: list.rows });
      if (!result.ok) return troubleInFull(result.error);
      setLooked(result.value);
      setLeave(new Set());
      return null;
    });
  const open = async (file: File) => {
    setLooked(null);
    setDone('');
    const list = await listIn(file);
    if (typeof list === 'string') return setTrouble(list);
    setRead(list);
    await plan(list);
  };
  const follow = () =>
    attempt(async () => {
      if (read === null || looked === null) return null;
      const result = await call<{ added: number; changed: number; left: number }>(
        'PUT',
        '/api/people/directory',
        { rows: read.rows, seen: looked.seen, leave: [...leave] },
      );
      if (!result.ok) return troubleInFull(result.error);
      const { added, changed, left } = result.value;
      setDone(speak`Done: ${added} added, ${changed} changed, ${left} left.`);
      setLooked(null);
      return null;
    });
  return (
    <section aria-labelledby="from-file">
      <h2 id="from-file" className="mb-2 text-[19px]">{speak`From a file, once`}</h2>
      <label className="button mb-3 w-fit cursor-pointer focus-within:outline-2">
        <FileSpreadsheet size={16} aria-hidden />
        {read === null ? speak`Choose a CSV file` : speak`Choose another CSV file`}
        <input
          type="file"
          accept=".csv,text/csv"
          className="sr-only"
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file !== undefined) void open(file);
            // The same file, mended, is read again.
            target.value = '';
          }}
        />
      </label>
      <div role="alert">{trouble !== '' && <p className="trouble mb-3">{trouble}</p>}</div>
      <div role="status">
        {done !== '' && (
          <p className="mb-3 font-semibold text-lichen">
            {done} <a href="/people" className="underline">{speak`See who is here`}</a>
          </p>
        )}
      </div>
      {looked !== null && read !== null && (
        <PlanLooked plan={looked.plan} name={read.name} people={read.rows.length} unread={read.unread}>
          <Missing
            plan={looked.plan}
            leave={leave}
            onLeave={(id, is) =>
              setLeave(new Set(is ? [...leave, id] : [...leave].filter((one) => one !== id)))
            }
          />
        </PlanLooked>
      )}
      {looked !== null && looked.plan.issues.length === 0 && (
        <button
          type="button"
          className="button button-go mt-3"
          disabled={busy || isNothing(looked.plan, leave)}
          onClick={() => void follow()}
        >
          {buttonWords(looked.plan, leave)}
        </button>
      )}
    </section>
  );
}

async function listIn(file: File): Promise<Read | string> {
  const { default: papaparse } = await import('papaparse');
  const { data } = papaparse.parse<string[]>((await file.text()).replace(/^\uFEFF/, ''));
  const { rows, unread, missing } = directoryRows(data);
  if (missing.length > 0)
    return speak`No column is called ${missing.map((one) => (one === 'email' ? 'E-mail' : 'Name')).join(speak` or `)}`;
  if (rows.length === 0) return speak`Nobody is in this list`;
  if (rows.length > limits.directory)
    return speak`At most ${limits.directory} people can be brought in at once`;
  return { name: file.name, rows, unread };
}

interface MissingProps {
  readonly plan: DirectoryPlan;
  readonly leave: ReadonlySet<string>;
  readonly onLeave: (id: string, is: boolean) => void;
}

const Missing = ({ plan: { missing }, leave, onLeave }: MissingProps) => (
  <PlanPart title={speak`${missing.length} here and not in the list`} many={missing.length}>
    {missing.map(({ id, name }) => (
      <li key={id}>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={leave.has(id)}
            onChange={({ target }) => onLeave(id, target.checked)}
          />
          {speak`${name} has left`}
        </label>
      </li>
    ))}
    <li className="quiet">{speak`Whoever has left is out at once; what they own goes to whoever they work under, or to you.`}</li>
  </PlanPart>
);

const isNothing = ({ add, change, groups }: DirectoryPlan, leave: ReadonlySet<string>): boolean =>
  add.length + change.length + groups.length + leave.size === 0;

function buttonWords(plan: DirectoryPlan, leave: ReadonlySet<string>): string {
  if (isNothing(plan, leave)) return speak`There is nothing to change`;
  const parts = [
    plan.add.length > 0 ? speak`add ${plan.add.length}` : '',
    plan.change.length > 0 ? speak`change ${plan.change.length}` : '',
    plan.groups.length > 0 ? speak`put ${counted(plan.groups.length, 'group')} right` : '',
    leave.size > 0 ? speak`end the access of ${leave.size}` : '',
  ].filter((one) => one !== '');
  const [first = ''] = parts;
  return [first.charAt(0).toUpperCase() + first.slice(1), ...parts.slice(1)].join(', ');
}
