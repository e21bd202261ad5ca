import type { DirectoryIssue, DirectoryPlan, PlannedPerson } from '../../core/directory/directory-plan';
import { counted } from '../../core/wording/numbers';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const whyWords: Readonly<Record<DirectoryIssue['why'], (value: string) => string>> = {
  'no-email': (value) =>
    value === '' ? speak`has no e-mail address` : speak`“${value}” is no e-mail address`,
  'no-name': () => speak`has no name`,
  'too-long': (value) => speak`“${value.slice(0, 40)}…” is too long`,
  twice: (value) => speak`${value} stands there twice`,
  'manager-unknown': (value) => speak`its manager ${value} is neither here nor in the list`,
  'own-manager': () => speak`is their own manager`,
  'other-address': (value) =>
    speak`is ${value} here: change the address under People, for it lets in whoever has it`,
  'has-left': (value) => speak`${value} has left: let them in again under People, if that is right`,
  'manager-circle': (value) => speak`its manager ${value} works, in the end, under them`,
};

const partWords = spoken(() => ({ name: speak`name`, place: speak`place`, manager: speak`manager` }));

interface Props {
  readonly plan: DirectoryPlan;
  /** What the list is called. */
  readonly name: string;
  readonly people: number;
  /** Headings that mean nothing here. */
  readonly unread: readonly string[];
  /** Who is here and not in it. */
  readonly children: React.ReactNode;
}

/** What a list of people would change. */
export function PlanLooked({
  plan: { issues, add, change, groups, same },
  name,
  people,
  unread,
  children,
}: Props) {
  return (
    <>
      <p className="mb-3">{speakIn`${(<strong>{name}</strong>)}: ${counted(people, 'person', 'people')}, ${same} known just so.${unread.length > 0 && speak` Not read: ${unread.join(', ')}.`}`}</p>
      <WrongLines issues={issues} wrong={issues.length} />
      <PlanPart title={speak`${add.length} new`} many={add.length}>
        {add.map((one) => (
          <li key={one.email}>
            <strong>{one.name}</strong> <span className="quiet">{aboutWords(one)}</span>
          </li>
        ))}
      </PlanPart>
      <PlanPart title={speak`${change.length} changed`} many={change.length}>
        {change.map((one) => (
          <li key={one.email}>
            <strong>{one.name}</strong>
            {one.back && speak` comes back`}
            {one.parts.map(({ what, was, now }) => (
              <span key={what} className="block pl-4 break-words">
                {partWords()[what]}: {was !== '' && <s className="text-slate-600">{was}</s>}{' '}
                <mark className="rounded-sm bg-marker px-1">{now === '' ? speak`nobody` : now}</mark>
              </span>
            ))}
          </li>
        ))}
      </PlanPart>
      <PlanPart title={counted(groups.length, 'group')} many={groups.length}>
        {groups.map(({ id, label, join, leave: out }) => (
          <li key={label}>
            <strong>{label}</strong>
            {id === null && speak` is made`}
            {join.length > 0 && <span className="block pl-4 break-words">{speak`in: ${namesOf(join)}`}</span>}
            {out.length > 0 && <span className="block pl-4 break-words">{speak`out: ${namesOf(out)}`}</span>}
          </li>
        ))}
      </PlanPart>
      {children}
    </>
  );
}

/** Lines of a list that are wrong, the first of them in full. */
export const WrongLines = ({ issues, wrong }: { issues: readonly DirectoryIssue[]; wrong: number }) => (
  <PlanPart title={counted(wrong, 'line is wrong', 'lines are wrong')} many={wrong}>
    {issues.map(({ line, why, value }) => (
      <li key={`${line} ${why} ${value}`} className="text-rust">
        <span className="font-mono text-[13px]">{line}</span> {whyWords[why](value)}
      </li>
    ))}
  </PlanPart>
);

export const PlanPart = ({
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
