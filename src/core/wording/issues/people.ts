import type { PeopleFacts } from '../../kernel/issue';
import type { Sentences } from './sentences';
import { words } from './words';

/** Of people and groups. */
export const peopleSentences: Sentences<PeopleFacts> = {
  'email-taken': ({ name }) => `${words(name)} has this e-mail address already`,
  'not-a-colleague': () => 'Somebody named here has left, or is not one of your colleagues',
  'hand-over-to-sender': () => 'Nobody decides what they sent themselves; hand it to somebody else',
  'return-to-earlier': () => 'Choose a step before this one that was asked about it',
  'hand-over-to-asked': () => 'They are asked already, or have approved it; hand it to somebody else',
  'back-before-away': () => 'The last day is before the first',
  'away-in-the-past': () => 'The last day is over already',
  'away-already': ({ from, until }) => `Away already from ${words(from)} until ${words(until)}`,
  'stands-in-for-self': () => 'Somebody else must stand in',
  'own-access': () => 'Somebody else must end your own access',
  'last-administrator': () =>
    'Nobody would administer the workspace any more; make somebody else an administrator first',
  'group-in-itself': () => 'A group cannot be inside itself, nor inside a group that it holds',
  'group-label-taken': () => 'There is a group of this name already',
  'group-gone': () => 'A group named here is not there any more',
  'nobody-designs': () => 'Somebody must be left who may change this',
  'rule-not-here': () => 'This is about the whole table, and cannot be limited to some records',
  'restricted-directory': () => 'Whoever sees colleagues sees all that is known of them here',
  'restricted-title': ({ label }) =>
    `Records are called by ${label}, so whoever sees a record sees it; call them otherwise first`,
  'restricted-files': ({ label }) => `${label}: files are seen with their record, and not kept from some`,
  'restricted-rule': ({ label, table }) =>
    `Who sees which records of ${table} depends on ${label}, so it is not kept from any of them`,
  'restricted-read': ({ label, table }) =>
    `${table === '' ? label : `${label} of ${table}`} is worked out of it, and is to be seen by nobody else; restrict that as well`,
  'rule-circle': ({ table }) =>
    `Which records of ${words(table)} are seen would depend on itself: what this looks at is seen by rules that look at ${words(table)} again`,
  'nobody-fills': () => 'Say who may fill it before it is released',
  'token-nothing': () => 'Say at least one thing it may do',
  'token-lasts': ({ most }) => `It must end within ${words(most)} days, and not before tomorrow`,
  'token-beyond': ({ what }) => `Whoever it acts for may not do this themselves: ${words(what)}`,
  'events-gone': ({ gone }) =>
    `Events up to ${words(gone)} are not kept any more. Read what you follow anew, then go on with lastEventId=${words(gone)}`,
  'events-nothing': () => 'Say what it is told: at least one table or form, and at least one kind of event',
  'events-beyond': ({ what }) => `Whoever it sees as does not see this themselves: ${words(what)}`,
  'event-url': () => 'An address begins with https:// and has no name or password in it',
  'event-url-plain': () => 'What is told must not travel in the open: the address begins with https://',
  'event-url-inside': () =>
    'This address lies inside your own network. Whoever runs the machine has to name it before anything is told there',
  'event-url-nowhere': () => 'There is no such place: its name leads nowhere',
  'event-addresses': ({ most }) => `There are ${words(most)} addresses already, the most there may be`,
  'if-match': () => 'Say with If-Match which version this began from: the ETag of the record, or *',
  'zone-unknown': () => 'Choose a time zone from the list',
  'currency-unknown': () => 'This is no currency; write its three letters, as in EUR',
  'no-workdays': () => 'At least one day of the week must be a working day',
  'closes-before-opening': () => 'Work must end after it begins',
  'place-unknown': () => 'The holidays of this place are not known here',
  'closed-too-long': ({ most }) => `At most ${words(most)} days in a row`,
};
