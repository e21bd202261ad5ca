import type { PeopleFacts } from '../../kernel/issue';
import type { Sentences } from './sentences';
import { words } from './words';
import { speak } from '../speak';

/** Of people and groups. */
export const peopleSentences: Sentences<PeopleFacts> = {
  'email-taken': ({ name }) => speak`${words(name)} has this e-mail address already`,
  'manager-circle': ({ name }) => speak`${words(name)} works, in the end, under them`,
  'not-a-colleague': () => speak`Somebody named here has left, or is not one of your colleagues`,
  'hand-over-to-sender': () => speak`Nobody decides what they sent themselves; hand it to somebody else`,
  'return-to-earlier': () => speak`Choose a step before this one that was asked about it`,
  'hand-over-to-asked': () => speak`They are asked already, or have approved it; hand it to somebody else`,
  'back-before-away': () => speak`The last day is before the first`,
  'away-in-the-past': () => speak`The last day is over already`,
  'away-already': ({ from, until }) => speak`Away already from ${words(from)} until ${words(until)}`,
  'stands-in-for-self': () => speak`Somebody else must stand in`,
  'own-access': () => speak`Somebody else must end your own access`,
  'last-administrator': () =>
    speak`Nobody would administer the workspace any more; make somebody else an administrator first`,
  'group-in-itself': () => speak`A group cannot be inside itself, nor inside a group that it holds`,
  'group-label-taken': () => speak`There is a group of this name already`,
  'group-gone': () => speak`A group named here is not there any more`,
  'nobody-designs': () => speak`Somebody must be left who may change this`,
  'rule-not-here': () => speak`This is about the whole table, and cannot be limited to some records`,
  'restricted-directory': () => speak`Whoever sees colleagues sees all that is known of them here`,
  'restricted-title': ({ label }) =>
    speak`Records are called by ${label}, so whoever sees a record sees it; call them otherwise first`,
  'restricted-files': ({ label }) =>
    speak`${label}: files are seen with their record, and not kept from some`,
  'restricted-rule': ({ label, table }) =>
    speak`Who sees which records of ${table} depends on ${label}, so it is not kept from any of them`,
  'restricted-read': ({ label, table }) =>
    speak`${table === '' ? label : speak`${label} of ${table}`} is worked out of it, and is to be seen by nobody else; restrict that as well`,
  'rule-circle': ({ table }) =>
    speak`Which records of ${words(table)} are seen would depend on itself: what this looks at is seen by rules that look at ${words(table)} again`,
  'nobody-fills': () => speak`Say who may fill it before it is released`,
  'token-nothing': () => speak`Say at least one thing it may do`,
  'token-lasts': ({ most }) => speak`It must end within ${words(most)} days, and not before tomorrow`,
  'token-beyond': ({ what }) => speak`Whoever it acts for may not do this themselves: ${words(what)}`,
  'events-gone': ({ gone }) =>
    speak`Events up to ${words(gone)} are not kept any more. Read what you follow anew, then go on with lastEventId=${words(gone)}`,
  'events-nothing': () =>
    speak`Say what it is told: at least one table or form, and at least one kind of event`,
  'events-beyond': ({ what }) => speak`Whoever it sees as does not see this themselves: ${words(what)}`,
  'event-url': () => speak`An address begins with https:// and has no name or password in it`,
  'event-url-plain': () => speak`What is told must not travel in the open: the address begins with https://`,
  'event-url-inside': () =>
    speak`This address lies inside your own network. Whoever runs the machine has to name it before anything is told there`,
  'event-url-nowhere': () => speak`There is no such place: its name leads nowhere`,
  'event-addresses': ({ most }) => speak`There are ${words(most)} addresses already, the most there may be`,
  'if-match': () => speak`Say with If-Match which version this began from: the ETag of the record, or *`,
  'zone-unknown': () => speak`Choose a time zone from the list`,
  'currency-unknown': () => speak`This is no currency; write its three letters, as in EUR`,
  'no-workdays': () => speak`At least one day of the week must be a working day`,
  'closes-before-opening': () => speak`Work must end after it begins`,
  'place-unknown': () => speak`The holidays of this place are not known here`,
  'closed-too-long': ({ most }) => speak`At most ${words(most)} days in a row`,
};
