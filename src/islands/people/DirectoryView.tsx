import { useState } from 'react';
import type { DirectoryData } from '../../contract/people';
import type { DirectoryIssue, DirectoryPlan, PlannedPerson } from '../../core/directory/directory-plan';
import { directoryRows, type DirectoryRow } from '../../core/directory/directory-rows';
import { limits } from '../../core/limits';
import { counted } from '../../core/wording/numbers';
import { call, troubleInFull } from '../kit/call';
import { FileSpreadsheet } from '../kit/icons';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Read {
  readonly name: string;
  readonly rows: readonly DirectoryRow[];
  readonly unread: readonly string[];
}

/** Brings people in from a list, once it was looked over. */
export default function DirectoryView() {
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
    <>
      <p className="pt-4 text-[14px]">
        <a href="/people">{speak`People`}</a>
      </p>
      <h1 className="pb-3 text-2xl">{speak`People from a list`}</h1>
      <div className="sheet-frame">
        <div className="py-4 pr-5 pl-[46px] max-sm:pl-3">
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
            <Looked
              plan={looked.plan}
              read={read}
              leave={leave}
              onLeave={(id, is) =>
                setLeave(new Set(is ? [...leave, id] : [...leave].filter((one) => one !== id)))
              }
            />
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
        </div>
        <aside id="margin" className="margin-pane" aria-label={speak`What a list needs`}>
          <section className="margin-part first">
            <h2 className="margin-title">{speak`What a list needs`}</h2>
            <p className="text-[14px]">{speakIn`Its first line has headings: ${(<strong>{speak`E-mail`}</strong>)} and ${(<strong>{speak`Name`}</strong>)} (or First name and Last name), and where they are to be known ${(<strong>{speak`Place`}</strong>)}, ${(<strong>{speak`Manager`}</strong>)} (their e-mail) and ${(<strong>{speak`Groups`}</strong>)} (parted by semicolons). People are recognised by their e-mail.`}</p>
            <p className="mt-2 text-[14px]">{speak`Nothing changes before you have looked it over. What they may do stays as it is, and so does what the list does not tell.`}</p>
          </section>
        </aside>
      </div>
    </>
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

const whyWords: Readonly<Record<DirectoryIssue['why'], (value: string) => string>> = {
  'no-email': (value) =>
    value === '' ? speak`has no e-mail address` : speak`“${value}” is no e-mail address`,
  'no-name': () => speak`has no name`,
  'too-long': (value) => speak`“${value.slice(0, 40)}…” is too long`,
  twice: (value) => speak`${value} stands there twice`,
  'manager-unknown': (value) => speak`its manager ${value} is neither here nor in the list`,
  'own-manager': () => speak`is their own manager`,
};

const partWords = { name: 'name', place: 'place', manager: 'manager' } as const;

interface LookedProps {
  readonly plan: DirectoryPlan;
  readonly read: Read;
  readonly leave: ReadonlySet<string>;
  readonly onLeave: (id: string, is: boolean) => void;
}

function Looked({ plan, read, leave, onLeave }: LookedProps) {
  const { issues, add, change, groups, missing, same } = plan;
  return (
    <>
      <p className="mb-3">{speakIn`${(<strong>{read.name}</strong>)}: ${counted(read.rows.length, 'person', 'people')}, ${same} known just so.${read.unread.length > 0 && speak` Not read: ${read.unread.join(', ')}.`}`}</p>
      <Part title={`${counted(issues.length, 'line is wrong', 'lines are wrong')}`} many={issues.length}>
        {issues.map(({ line, why, value }) => (
          <li key={`${line} ${why}`} className="text-rust">
            <span className="font-mono text-[13px]">{line}</span> {whyWords[why](value)}
          </li>
        ))}
      </Part>
      <Part title={speak`${add.length} new`} many={add.length}>
        {add.map((one) => (
          <li key={one.email}>
            <strong>{one.name}</strong> <span className="quiet">{aboutWords(one)}</span>
          </li>
        ))}
      </Part>
      <Part title={speak`${change.length} changed`} many={change.length}>
        {change.map((one) => (
          <li key={one.email}>
            <strong>{one.name}</strong>
            {one.back && speak` comes back`}
            {one.parts.map(({ what, was, now }) => (
              <span key={what} className="block pl-4 break-words">
                {partWords[what]}: {was !== '' && <s className="text-slate-600">{was}</s>}{' '}
                <mark className="rounded-sm bg-marker px-1">{now === '' ? speak`nobody` : now}</mark>
              </span>
            ))}
          </li>
        ))}
      </Part>
      <Part title={counted(groups.length, 'group')} many={groups.length}>
        {groups.map(({ id, label, join, leave: out }) => (
          <li key={label}>
            <strong>{label}</strong>
            {id === null && speak` is made`}
            {join.length > 0 && <span className="block pl-4 break-words">{speak`in: ${namesOf(join)}`}</span>}
            {out.length > 0 && <span className="block pl-4 break-words">{speak`out: ${namesOf(out)}`}</span>}
          </li>
        ))}
      </Part>
      <Part title={speak`${missing.length} here and not in the list`} many={missing.length}>
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
        {missing.length > 0 && (
          <li className="quiet">{speak`Whoever has left is out at once; what they own goes to whoever they work under, or to you.`}</li>
        )}
      </Part>
    </>
  );
}

const Part = ({
  title,
  many,
  children,
}: {
  readonly title: string;
  readonly many: number;
  readonly children: React.ReactNode;
}) =>
  many === 0 ? null : (
    <section className="mb-4">
      <h2 className="mb-1 font-sans text-[15px] font-semibold">{title}</h2>
      <ul className="grid max-h-80 grid-cols-[minmax(0,1fr)] gap-1 overflow-y-auto text-[14px] break-words">
        {children}
      </ul>
    </section>
  );

const namesOf = (members: readonly { readonly name: string }[]): string =>
  members.map(({ name }) => name).join(', ');

const aboutWords = ({ email, place, manager }: PlannedPerson): string =>
  [email, place, manager === null ? '' : speak`under ${manager}`].filter((one) => one !== '').join(' · ');

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
