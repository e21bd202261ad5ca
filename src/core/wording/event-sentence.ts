import type { Delivered, DeliveryFault } from '../event/delivery';
import type { EventKind } from '../event/event';
import { joined, type Names } from './token-sentence';
import { speak, spoken } from './speak';

/** What happens, as one picks it: of records, and of submissions. */
export const kindWords = spoken((): Readonly<Record<EventKind, string>> => ({
  'record.made': speak`made`,
  'record.changed': speak`changed`,
  'record.removed': speak`removed`,
  'record.restored': speak`brought back`,
  'records.imported': speak`imported`,
  'submission.sent': speak`sent`,
  'submission.decided': speak`decided`,
  'submission.withdrawn': speak`withdrawn`,
  'submission.kept': speak`kept`,
}));
export const isOfRecords = (kind: EventKind): boolean => kind.startsWith('record');

/** What was told, in a list of it. */
export const toldWords = (kind: string): string =>
  kind in kindWords()
    ? `${isOfRecords(kind as EventKind) ? (kind === 'records.imported' ? speak`Records` : speak`Record`) : speak`Submission`} ${kindWords()[kind as EventKind]}`
    : speak`Tried by hand`;

interface Told {
  readonly tables: readonly string[];
  readonly forms: readonly string[];
  readonly kinds: readonly EventKind[];
}

/** What an address is told, as one says it: “Records made and changed in Beds; submissions kept of Shift log”. */
export function eventsSentence({ tables, forms, kinds }: Told, names: Names): string {
  const part = (what: string, of: readonly EventKind[], where: string, ids: readonly string[]): string[] => {
    const known = ids.flatMap((id) => names.get(id) ?? []).sort((a, b) => a.localeCompare(b));
    return known.length === 0 || of.length === 0
      ? []
      : [`${what} ${joined(of.map((kind) => kindWords()[kind]))} ${where} ${joined(known)}`];
  };
  const said = [
    ...part('records', kinds.filter(isOfRecords), 'in', tables),
    ...part(
      'submissions',
      kinds.filter((kind) => !isOfRecords(kind)),
      'of',
      forms,
    ),
  ].join('; ');
  return said === ''
    ? speak`Nothing any more: what it named is gone`
    : said.charAt(0).toUpperCase() + said.slice(1);
}

const faultWords: Readonly<Record<DeliveryFault, (status: number | null) => string>> = {
  'no-answer': () => speak`nobody answered`,
  inside: () => speak`the address lies inside, and nobody has named it`,
  redirect: (status) => speak`led elsewhere (${status})`,
  answer: (status) => speak`answered ${status}`,
};

/** What became of telling it. */
export const deliveredWords = ({ status, fault, ms }: Delivered): string =>
  fault === null ? speak`taken in ${ms} ms` : faultWords[fault](status);

/** Why nothing more is told. */
export const stoppedWords = (because: 'gone' | 'failing' | 'left' | 'secret' | null): string => {
  switch (because) {
    case 'gone':
      return speak`Its receiver says that it is gone for good`;
    case 'failing':
      return speak`It took nothing for days`;
    case 'left':
      return speak`Whoever it saw as has left`;
    case 'secret':
      return speak`Its secret cannot be read any more: remove it, and make another`;
    case null:
      return speak`Somebody stopped it`;
  }
};
